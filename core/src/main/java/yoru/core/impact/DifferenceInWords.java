package yoru.core.impact;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import yoru.core.access.TermsInWords;
import yoru.core.access.Words;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookDifference;

/** Says what one rulebook does otherwise than another, a sentence each; what changed as it was → as it is. */
public final class DifferenceInWords {

    private DifferenceInWords() {}

    public static List<String> of(Rulebook before, Rulebook after) {
        Map<String, Link> old = before.linksById();
        Map<String, Link> now = after.linksById();
        List<String> lines = new ArrayList<>();
        for (Link link : after.links()) {
            var was = old.get(link.id());
            if (was == null) {
                lines.add(sentence(after, link, "opens") + " " + TermsInWords.of(link, after));
            } else if (!was.equals(link)) {
                lines.add(changed(before, was, after, link));
            }
        }
        for (Link link : before.links()) {
            if (!now.containsKey(link.id())) {
                lines.add(
                        sentence(before, link, "no longer opens") + " (before: " + TermsInWords.of(link, before) + ")");
            }
        }
        lines.addAll(new RulebookDifference(before, after).more(Words::period));
        return List.copyOf(lines);
    }

    private static String changed(Rulebook before, Link was, Rulebook after, Link link) {
        var terms = TermsInWords.of(link, after);
        if (was.from().equals(link.from()) && was.to().equals(link.to())) {
            return sentence(after, link, "opens") + ": " + TermsInWords.of(was, before) + " → " + terms;
        }
        return sentence(before, was, "opens") + " " + TermsInWords.of(was, before) + " → "
                + sentence(after, link, "opens") + " " + terms;
    }

    private static String sentence(Rulebook rulebook, Link link, String verb) {
        var to = rulebook.titlesOf(link.to());
        return rulebook.title(link.from()) + " " + verb + " " + to;
    }
}
