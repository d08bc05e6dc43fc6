package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.boot.context.properties.bind.Binder;
import org.springframework.boot.context.properties.source.MapConfigurationPropertySource;
import org.springframework.boot.diagnostics.FailureAnalyzer;

/** Whom a server believes is said before it starts, or it does not start. */
class WebServerTests {

    private static void proxies(String publicAddress, String proxies) {
        var settings = new Binder(new MapConfigurationPropertySource(Map.of("yoru.key", "", "yoru.proxies", proxies)))
                .bind("yoru", YoruSettings.class)
                .get();
        SchoolSettings school = mock();
        when(school.publicAddress()).thenReturn(publicAddress);
        when(school.isSecure()).thenReturn(publicAddress.startsWith("https:"));
        new WebServer().proxies(settings, school);
    }

    @Test
    void underAnEncryptedAddressItIsSaidWhatStandsBefore() {
        assertThatThrownBy(() -> proxies("https://yoru.example", ""))
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
        assertThatThrownBy(() -> proxies("https://yoru.example", proxies)).isInstanceOf(WrongSettingException.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"none", "127.0.0.1", "127.0.0.1,::1"})
    void itStartsOnceThatIsSaid(String proxies) {
        assertThatCode(() -> proxies("https://yoru.example", proxies)).doesNotThrowAnyException();
        assertThatCode(() -> proxies("http://127.0.0.1:8410", "")).doesNotThrowAnyException();
    }
}
