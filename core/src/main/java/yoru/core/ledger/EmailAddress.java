package yoru.core.ledger;

import java.util.regex.Pattern;

/**
 * Addresses that letters can go to: as in RFC 5321, 4.1.2, without quoting; what is finer is left to the system that sends
 * a letter.
 */
public final class EmailAddress {

    /** RFC 5321, 4.5.3.1.3, without the angle brackets. */
    public static final int LONGEST = 254;

    private static final String PART = "[^\\s\\p{Cntrl}@\"<>.]++";

    /** No part can be read in two ways, so that none is tried twice. */
    private static final Pattern FORM =
            Pattern.compile("[^\\s\\p{Cntrl}@\"<>]{1,64}+@" + PART + "(?:\\." + PART + ")++");

    private EmailAddress() {}

    public static boolean isOne(String text) {
        return text.length() <= LONGEST && FORM.matcher(text).matches();
    }
}
