package yoru.core.ledger;

import java.util.Locale;
import java.util.regex.Pattern;

/** By what people are told apart. */
public final class PersonKey {

    private PersonKey() {}

    private static final Pattern CONTROLS = Pattern.compile("\\p{Cntrl}");

    /**
     * Addresses are compared without regard to case and stray spaces; anything else is a key as it is. What nobody can see
     * or type is in none.
     */
    public static String plain(String text) {
        var key = CONTROLS.matcher(text).replaceAll("").strip();
        return key.contains("@") ? key.toLowerCase(Locale.ROOT) : key;
    }
}
