package yoru.formats.matching;

import java.util.Optional;
import java.util.regex.Pattern;

/** Reads amounts as people and programs write them. */
public final class Amounts {

    private static final Pattern AMOUNT = Pattern.compile("-?\\d{1,15}(?:\\.\\d{1,4})?");

    private Amounts() {}

    /** "1.180,50 €" and "1,180.50" are 1180.50: the last sign before at most two digits is the decimal one. */
    public static Optional<String> plain(String text) {
        var bare = text.replaceAll("[^0-9.,-]", "");
        int point = Math.max(bare.lastIndexOf('.'), bare.lastIndexOf(','));
        boolean grouping = point >= 0
                && bare.length() - point == 4
                && (bare.indexOf(bare.charAt(point)) != point || bare.charAt(point) == ',');
        var plain = point < 0 || grouping
                ? bare.replaceAll("[.,]", "")
                : bare.substring(0, point).replaceAll("[.,]", "") + "." + bare.substring(point + 1);
        return AMOUNT.matcher(plain).matches() ? Optional.of(plain) : Optional.empty();
    }
}
