package yoru.formats;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;
import org.apache.commons.text.similarity.LevenshteinDistance;

/** Guesses what was meant by a name that is not known. */
final class Nearest {

    private Nearest() {}

    /** "; did you mean `queen-rearing`?", or nothing where nothing is near. */
    static String to(String name, Collection<String> known) {
        int far = name.length() < 4 ? 1 : Math.max(2, name.length() / 3);
        var distance = new LevenshteinDistance(far);
        var wanted = name.toLowerCase(Locale.ROOT);
        record Candidate(String name, int distance) {}
        return known.stream()
                .map(one -> new Candidate(one, distance.apply(wanted, one.toLowerCase(Locale.ROOT))))
                .filter(one -> one.distance >= 0)
                .min(Comparator.comparingInt(Candidate::distance))
                .map(one -> "; did you mean `" + one.name + "`?")
                .orElse("");
    }
}
