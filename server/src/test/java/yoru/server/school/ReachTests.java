package yoru.server.school;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;

import com.sun.net.httpserver.HttpServer;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yoru.server.platform.SignedTexts;
import yoru.server.school.Reach.Outcome;

/** At the school's address another program has a page, as long as pages are. */
class ReachTests {

    private static final InetSocketAddress SOMEWHERE = new InetSocketAddress(InetAddress.getLoopbackAddress(), 0);
    private static final String PASSWORD = "smoke under lids";

    private final Reach reach = new Reach(mock(SignedTexts.class));

    private Outcome reached(HttpServer server, String scheme) {
        server.createContext("/", exchange -> {
            exchange.sendResponseHeaders(200, 0);
            try (var body = exchange.getResponseBody()) {
                body.write(new byte[100_000]);
            }
        });
        server.start();
        try {
            return reach.of(scheme + "://127.0.0.1:" + server.getAddress().getPort());
        } finally {
            server.stop(0);
        }
    }

    @Test
    void whatIsNotYoruIsNotNothing() throws IOException {
        assertThat(reached(HttpServer.create(SOMEWHERE, 0), "http")).isEqualTo(Outcome.SOMETHING_ELSE);
    }

    @Test
    void whoseCertificateNobodyVouchesForIsNotNothingEither(@TempDir Path place) throws Exception {
        var server = HttpsServer.create(SOMEWHERE, 0);
        server.setHttpsConfigurator(new HttpsConfigurator(vouchedForByItself(place.resolve("keys"))));
        assertThat(reached(server, "https")).isEqualTo(Outcome.NOT_TRUSTED);
    }

    private static SSLContext vouchedForByItself(Path keys)
            throws IOException, InterruptedException, GeneralSecurityException {
        var made = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "keytool")
                                .toString(),
                        "-genkeypair",
                        "-keyalg",
                        "EC",
                        "-dname",
                        "CN=127.0.0.1",
                        "-ext",
                        "san=ip:127.0.0.1",
                        "-storetype",
                        "PKCS12",
                        "-keystore",
                        keys.toString(),
                        "-storepass",
                        PASSWORD)
                .inheritIO()
                .start()
                .waitFor();
        assertThat(made).isZero();
        var store = KeyStore.getInstance("PKCS12");
        try (var in = Files.newInputStream(keys)) {
            store.load(in, PASSWORD.toCharArray());
        }
        var managers = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        managers.init(store, PASSWORD.toCharArray());
        var context = SSLContext.getInstance("TLS");
        context.init(managers.getKeyManagers(), null, null);
        return context;
    }
}
