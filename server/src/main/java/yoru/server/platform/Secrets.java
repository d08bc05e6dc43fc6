package yoru.server.platform;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Stream;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.security.crypto.encrypt.AesGcmBytesEncryptor;
import org.springframework.security.crypto.encrypt.BytesEncryptor;
import org.springframework.stereotype.Component;

/**
 * Encrypts what must not stand readable in the database (AES-256-GCM). What is encrypted says with which key, so that
 * another key can take over while the former one still opens what it has locked.
 */
@Component
public class Secrets {

    private static final byte[] MARK = {'Y', 1};
    private static final int NAME_BYTES = 4;

    /** The one that locks first. */
    private final List<Key> keys;

    Secrets(YoruSettings settings) {
        keys = Stream.concat(Stream.of(settings.key()), settings.formerKeys().stream())
                .map(Key::of)
                .toList();
    }

    /** @param name the beginning of its digest, which tells nothing of it */
    private record Key(String name, BytesEncryptor encryptor) {

        static Key of(String hex) {
            var bytes = HexFormat.of().parseHex(hex);
            var name = Sha256.of(bytes).substring(0, 2 * NAME_BYTES);
            return new Key(
                    name,
                    AesGcmBytesEncryptor.withSecretKey(new SecretKeySpec(bytes, "AES"))
                            .build());
        }
    }

    public byte[] lock(String secret) {
        var key = keys.getFirst();
        var locked = key.encryptor.encrypt(secret.getBytes(StandardCharsets.UTF_8));
        return ByteBuffer.allocate(MARK.length + NAME_BYTES + locked.length)
                .put(MARK)
                .put(HexFormat.of().parseHex(key.name))
                .put(locked)
                .array();
    }

    /** @throws IllegalStateException where none of the keys has locked it */
    public String open(byte[] locked) {
        int head = MARK.length + NAME_BYTES;
        boolean isNamed = locked.length > head && Arrays.equals(Arrays.copyOf(locked, MARK.length), MARK);
        var name = isNamed ? HexFormat.of().formatHex(locked, MARK.length, head) : "";
        for (Key key : keys) {
            if (name.equals(key.name)) {
                return text(key, Arrays.copyOfRange(locked, head, locked.length));
            }
        }
        // from before keys had names
        return text(keys.getLast(), locked);
    }

    private static String text(Key key, byte[] locked) {
        return new String(key.encryptor.decrypt(locked), StandardCharsets.UTF_8);
    }
}
