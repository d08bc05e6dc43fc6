package yoru.server.platform;

import java.security.SecureRandom;
import java.util.Base64;

/**
 * A code that opens something to whoever has it: 160 bits of chance, in letters that stand in an address. Only its hash is
 * kept.
 */
public record SecretCode(String text) {

    private static final int BYTES = 20;
    private static final SecureRandom RANDOM = new SecureRandom();

    public static SecretCode make() {
        var bytes = new byte[BYTES];
        RANDOM.nextBytes(bytes);
        return new SecretCode(Base64.getUrlEncoder().withoutPadding().encodeToString(bytes));
    }

    public String hash() {
        return Sha256.of(text);
    }
}
