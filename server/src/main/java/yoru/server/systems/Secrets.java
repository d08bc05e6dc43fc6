package yoru.server.systems;

import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.security.crypto.encrypt.AesGcmBytesEncryptor;
import org.springframework.security.crypto.encrypt.BytesEncryptor;
import org.springframework.stereotype.Component;
import yoru.server.platform.YoruSettings;

/** Encrypts what must not stand readable in the database (AES-256-GCM). */
@Component
class Secrets {

    private final BytesEncryptor encryptor;

    Secrets(YoruSettings settings) {
        this.encryptor = AesGcmBytesEncryptor.withSecretKey(
                        new SecretKeySpec(HexFormat.of().parseHex(settings.key()), "AES"))
                .build();
    }

    byte[] lock(String secret) {
        return encryptor.encrypt(secret.getBytes(StandardCharsets.UTF_8));
    }

    String open(byte[] locked) {
        return new String(encryptor.decrypt(locked), StandardCharsets.UTF_8);
    }
}
