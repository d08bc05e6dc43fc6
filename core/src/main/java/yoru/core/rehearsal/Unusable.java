package yoru.core.rehearsal;

import java.util.Collection;
import java.util.List;

/**
 * Why a story cannot be told.
 *
 * @param place where in the document: {@code steps[3].buys.lines[0].product}
 * @param given what was meant to name something; empty where it is not about a name
 * @param known what could have been named
 */
public record Unusable(String place, String problem, String given, Collection<String> known) {

    public Unusable {
        known = List.copyOf(known);
    }

    static Unusable of(String place, String problem) {
        return new Unusable(place, problem, "", List.of());
    }

    static Unusable noSuch(String place, String what, String given, Collection<String> known) {
        return new Unusable(place, "there is no " + what + " `" + given + "`", given, known);
    }
}
