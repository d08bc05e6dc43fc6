package yoru.server.platform;

import java.security.SecureRandom;
import java.util.Base64;
import java.util.stream.Collectors;

/**
 * A code that opens something to whoever has it: 160 bits of chance, in letters that stand in an address. Only its hash is
 * kept.
 */
public record SecretCode(String text) {

    private static final int BYTES = 20;
    private static final SecureRandom RANDOM = new SecureRandom();

    /** What people read off and type: neither I nor O, neither 0 nor 1. */
    private static final String READABLE = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";

    /** A code that people type; each letter is 5 bits of chance. */
    public static String readable(int length) {
        return RANDOM.ints(length, 0, READABLE.length())
                .mapToObj(at -> READABLE.substring(at, at + 1))
                .collect(Collectors.joining());
    }

    public static SecretCode make() {
        var bytes = new byte[BYTES];
        RANDOM.nextBytes(bytes);
        return new SecretCode(Base64.getUrlEncoder().withoutPadding().encodeToString(bytes));
    }

    public String hash() {
        return Sha256.of(text);
    }
}
