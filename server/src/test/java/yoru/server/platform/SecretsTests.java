package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.Map;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.springframework.boot.context.properties.bind.Binder;
import org.springframework.boot.context.properties.source.MapConfigurationPropertySource;
import org.springframework.security.crypto.encrypt.AesGcmBytesEncryptor;

class SecretsTests {

    private static final String FIRST = "11".repeat(32);
    private static final String SECOND = "22".repeat(32);

    private static Secrets secrets(String key, String formerKeys) {
        var settings = new Binder(
                        new MapConfigurationPropertySource(Map.of("yoru.key", key, "yoru.former-keys", formerKeys)))
                .bind("yoru", YoruSettings.class)
                .get();
        return new Secrets(settings);
    }

    @Test
    void anotherKeyTakesOverAndTheFormerOneStillOpens() {
        var before = secrets(FIRST, "").lock("token");
        var now = secrets(SECOND, FIRST);
        assertThat(now.open(before)).isEqualTo("token");
        assertThat(now.open(now.lock("new"))).isEqualTo("new");
        assertThatThrownBy(() -> secrets(SECOND, "").open(before)).isInstanceOf(IllegalStateException.class);
        assertThat(secrets(SECOND, "").open(now.lock("new"))).isEqualTo("new");
    }

    @Test
    void whatWasLockedBeforeKeysHadNamesIsOpened() {
        var before = AesGcmBytesEncryptor.withSecretKey(
                        new SecretKeySpec(HexFormat.of().parseHex(FIRST), "AES"))
                .build()
                .encrypt("token".getBytes(StandardCharsets.UTF_8));
        assertThat(secrets(FIRST, "").open(before)).isEqualTo("token");
        assertThat(secrets(SECOND, FIRST).open(before)).isEqualTo("token");
    }
}
