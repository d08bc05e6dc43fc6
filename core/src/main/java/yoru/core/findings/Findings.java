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
     * @param standing what is found without it too, at something that it touches, or with other words
     * @param mended how many are found no more
     */
    public record Turn(List<Finding> brought, List<Finding> standing, int mended) {}

    /** @param touched paths of what the change is about, as findings name their {@link Finding#subject()} */
    public static Turn turn(List<Finding> before, List<Finding> after, Set<String> touched) {
        Map<Seen, String> were =
                before.stream().collect(Collectors.toMap(Seen::of, Finding::text, (one, other) -> one));
        var are = after.stream().map(Seen::of).collect(Collectors.toSet());
        return new Turn(
                after.stream()
                        .filter(finding -> !were.containsKey(Seen.of(finding)))
                        .toList(),
                after.stream()
                        .filter(finding -> were.containsKey(Seen.of(finding)))
                        .filter(finding -> touched.contains(finding.subject())
                                || !finding.text().equals(were.get(Seen.of(finding))))
                        .toList(),
                (int) were.keySet().stream().filter(one -> !are.contains(one)).count());
    }

    /** What tells findings apart. The id of a link does not: it can be another in a draft. */
    private record Seen(Finding.Kind kind, String about) {

        static Seen of(Finding finding) {
            return new Seen(
                    finding.kind(), finding.subject().startsWith("link/") ? finding.title() : finding.subject());
        }
    }

    /** All findings, the gravest kinds first. */
    public List<Finding> check(Observed observed) {
        var ways = new Ways(rulebook);
        var found = new ArrayList<Finding>();
        new ProductFindings(ways, observed).addTo(found);
        new TargetFindings(ways, observed).addTo(found);
        new LinkFindings(ways, observed).addTo(found);
        new CatalogueFindings(rulebook, observed).addTo(found);
        new DoorFindings(ways, observed).addTo(found);
        new FollowupFindings(rulebook).addTo(found);
        found.sort(Comparator.comparing(Finding::kind).thenComparing(Finding::subject));
        return List.copyOf(found);
    }
}
