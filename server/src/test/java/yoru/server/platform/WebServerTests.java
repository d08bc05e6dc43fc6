package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.boot.context.properties.bind.Binder;
import org.springframework.boot.context.properties.source.MapConfigurationPropertySource;
import org.springframework.boot.diagnostics.FailureAnalyzer;

/** Whom a server believes is said before it starts, or it does not start. */
class WebServerTests {

    private static YoruSettings settings(String publicAddress, String proxies) {
        return new Binder(new MapConfigurationPropertySource(
                        Map.of("yoru.key", "", "yoru.public-address", publicAddress, "yoru.proxies", proxies)))
                .bind("yoru", YoruSettings.class)
                .get();
    }

    @Test
    void underAnEncryptedAddressItIsSaidWhatStandsBefore() {
        assertThatThrownBy(() -> new WebServer().proxies(settings("https://yoru.example", "")))
                .isInstanceOfSatisfying(WrongSettingException.class, e -> {
                    var said = new WrongSettingAnalyzer().analyze(e);
                    assertThat(said).isNotNull();
                    assertThat(said.getDescription()).contains("YORU_PROXIES", "https://yoru.example");
                    assertThat(said.getAction()).contains("127.0.0.1", "none");
                });
        assertThat(new WrongSettingAnalyzer()).isInstanceOf(FailureAnalyzer.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"proxy.example", "10.0.0.0/8", "127.0.0.1, x", ".*"})
    void aProxyIsAnAddress(String proxies) {
        assertThatThrownBy(() -> new WebServer().proxies(settings("https://yoru.example", proxies)))
                .isInstanceOf(WrongSettingException.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"none", "127.0.0.1", "127.0.0.1,::1"})
    void itStartsOnceThatIsSaid(String proxies) {
        assertThatCode(() -> new WebServer().proxies(settings("https://yoru.example", proxies)))
                .doesNotThrowAnyException();
        assertThatCode(() -> new WebServer().proxies(settings("http://127.0.0.1:8410", "")))
                .doesNotThrowAnyException();
    }
}
