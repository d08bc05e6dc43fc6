package yoru.server.platform;

import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Optional;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/**
 * Texts that stand in addresses and that nobody can make but who has the key: HMAC-SHA256 (RFC 2104), each purpose with a
 * key of its own.
 */
@Component
public class SignedTexts {

    private static final String HMAC = "HmacSHA256";
    private static final Base64.Encoder ENCODER = Base64.getUrlEncoder().withoutPadding();

    private final byte[] key;

    SignedTexts(YoruSettings settings) {
        this.key = HexFormat.of().parseHex(settings.key());
    }

    /** What one would be signed with, by the key itself. */
    public static byte[] mac(byte[] key, String text) {
        try {
            var mac = Mac.getInstance(HMAC);
            mac.init(new SecretKeySpec(key, HMAC));
            return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException | InvalidKeyException e) {
            throw new IllegalStateException(e);
        }
    }

    /** @param purpose what is signed for one is not good for another */
    public String sign(String purpose, String text) {
        return ENCODER.encodeToString(text.getBytes(StandardCharsets.UTF_8)) + "." + signature(purpose, text);
    }

    private String signature(String purpose, String text) {
        return ENCODER.encodeToString(mac(mac(key, purpose), text));
    }

    /** The text, where it was signed here; it is not said how the signature differs, nor how long that took to see. */
    public Optional<String> read(String purpose, String signed) {
        int dot = signed.indexOf('.');
        try {
            var text = new String(
                    Base64.getUrlDecoder().decode(signed.substring(0, Math.max(0, dot))), StandardCharsets.UTF_8);
            boolean isGenuine = MessageDigest.isEqual(
                    signature(purpose, text).getBytes(StandardCharsets.UTF_8),
                    signed.substring(dot + 1).getBytes(StandardCharsets.UTF_8));
            return isGenuine ? Optional.of(text) : Optional.empty();
        } catch (IllegalArgumentException e) {
            return Optional.empty(); // no Base64
        }
    }
}
