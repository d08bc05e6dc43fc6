package yoru.core.findings;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import yoru.core.rulebook.Rulebook;

/** Looks a mapping over. */
public final class Findings {

    private final Rulebook rulebook;

    public Findings(Rulebook rulebook) {
        this.rulebook = rulebook;
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
