package yoru.core.findings;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import yoru.core.rulebook.Rulebook;

/** Looks a mapping over. */
public final class Findings {

    private final Rulebook rulebook;

    public Findings(Rulebook rulebook) {
        this.rulebook = rulebook;
    }

    /**
     * What a change of the mapping does to what is found.
     *
     * @param brought what is found only with it
     * @param standing what is found without it too, at something that it touches
     * @param mended how many are found no more
     */
    public record Turn(List<Finding> brought, List<Finding> standing, int mended) {}

    /** @param touched paths of what the change is about, as findings name their {@link Finding#subject()} */
    public static Turn turn(List<Finding> before, List<Finding> after, Set<String> touched) {
        var were = before.stream().map(Findings::seen).collect(Collectors.toSet());
        var are = after.stream().map(Findings::seen).collect(Collectors.toSet());
        Map<Boolean, List<Finding>> old =
                after.stream().collect(Collectors.partitioningBy(finding -> were.contains(seen(finding))));
        return new Turn(
                old.getOrDefault(false, List.of()),
                old.getOrDefault(true, List.of()).stream()
                        .filter(finding -> touched.contains(finding.subject()))
                        .toList(),
                (int) were.stream().filter(one -> !are.contains(one)).count());
    }

    /** What somebody sees of it; the id of a link is nobody's business and can change with a draft. */
    private record Seen(Finding.Kind kind, String title, String text) {}

    private static Seen seen(Finding finding) {
        return new Seen(finding.kind(), finding.title(), finding.text());
    }

    /** All findings, the gravest kinds first. */
    public List<Finding> check(Observed observed) {
        var ways = new Ways(rulebook);
        var found = new ArrayList<Finding>();
        new ProductFindings(ways, observed).addTo(found);
        new TargetFindings(ways, observed).addTo(found);
        new LinkFindings(ways, observed).addTo(found);
        new CatalogueFindings(rulebook, observed).addTo(found);
        found.sort(Comparator.comparing(Finding::kind).thenComparing(Finding::subject));
        return List.copyOf(found);
    }
}
