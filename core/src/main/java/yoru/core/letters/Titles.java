package yoru.core.letters;

import java.util.List;

/** Titles in a sentence: "First Hive, Honey and Wax"; more than a few are counted, for nobody would read them. */
public final class Titles {

    private static final int MOST = 3;

    private Titles() {}

    /** @param titles at least one */
    public static String few(List<String> titles) {
        if (titles.size() > MOST) {
            return titles.size() + " things";
        }
        return titles.size() == 1
                ? titles.getFirst()
                : String.join(", ", titles.subList(0, titles.size() - 1)) + " and " + titles.getLast();
    }
}
