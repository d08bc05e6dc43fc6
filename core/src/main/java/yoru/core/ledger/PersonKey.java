package yoru.core.ledger;

import java.util.Locale;

/** By what people are told apart. */
public final class PersonKey {

    private PersonKey() {}

    /** Addresses are compared without regard to case and stray spaces; anything else is a key as it is. */
    public static String plain(String text) {
        var key = text.strip();
        return key.contains("@") ? key.toLowerCase(Locale.ROOT) : key;
    }
}
