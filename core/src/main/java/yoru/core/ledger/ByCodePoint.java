package yoru.core.ledger;

import java.util.Comparator;

/**
 * Orders texts by their Unicode code points. Not {@link String#compareTo}, which goes by UTF-16 unit and puts U+1F41D
 * before U+FF5E.
 */
public final class ByCodePoint {

    public static final Comparator<String> ORDER = ByCodePoint::compare;

    private ByCodePoint() {}

    private static int compare(String a, String b) {
        int shared = Math.min(a.length(), b.length());
        for (int i = 0; i < shared; i++) {
            char x = a.charAt(i);
            char y = b.charAt(i);
            if (x != y) {
                return Integer.compare(rank(x), rank(y));
            }
        }
        return Integer.compare(a.length(), b.length());
    }

    /** Surrogates stand for code points above all that need none. */
    private static int rank(char unit) {
        return Character.isSurrogate(unit) ? unit + 0x1_0000 : unit;
    }
}
