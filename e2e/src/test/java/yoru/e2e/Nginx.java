package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.net.http.HttpClient;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.CertificateFactory;
import java.time.Duration;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import yoru.e2e.School.Part;

/** nginx before two servers, with the configuration that ships, but on a port and with a certificate of its own. */
final class Nginx {

    private static final Path SHIPPED = Path.of("..", "deploy", "nginx.conf");

    private static final String MAKE_CERTIFICATE =
            "openssl req -x509 -newkey rsa:2048 -nodes -days 1 -subj /CN=localhost"
                    + " -addext subjectAltName=DNS:localhost -keyout privkey.pem -out fullchain.pem";

    private final int port = School.freePort();
    private final Path place = Path.of("target", "nginx-" + port).toAbsolutePath();

    String address() {
        return "https://localhost:" + port;
    }

    /** As long as the tests run. */
    void start(School school) throws IOException, InterruptedException {
        Files.createDirectories(place);
        var made = process(MAKE_CERTIFICATE.split(" ")).waitFor();
        assertThat(made).as("a certificate; see " + place).isZero();
        Files.writeString(place.resolve("site.conf"), shipped(school));
        Files.writeString(place.resolve("nginx.conf"), """
                daemon off;
                pid pid;
                error_log error.log;
                events {}
                http {
                  access_log access.log;
                  client_body_temp_path body;
                  proxy_temp_path proxy;
                  fastcgi_temp_path fastcgi;
                  uwsgi_temp_path uwsgi;
                  scgi_temp_path scgi;
                  include site.conf;
                }
                """);
        var nginx = process(
                School.fromEnvironment("YORU_NGINX"), "-p", place.toString(), "-c", "nginx.conf", "-e", "error.log");
        Runtime.getRuntime().addShutdownHook(new Thread(nginx::destroy));
        await().atMost(Duration.ofSeconds(20)).until(() -> {
            assertThat(nginx.isAlive()).as("nginx runs; see " + place).isTrue();
            try (var _ = new Socket(InetAddress.getLoopbackAddress(), port)) {
                return true;
            } catch (IOException e) {
                return false;
            }
        });
    }

    private String shipped(School school) throws IOException {
        var site = Files.readString(SHIPPED);
        site = replaced(site, "server 127.0.0.1:8410", "server 127.0.0.1:" + school.portOf(Part.SERVER));
        site = replaced(site, "# server 127.0.0.1:8412", "server 127.0.0.1:" + school.portOf(Part.SECOND));
        site = replaced(site, "listen 443", "listen 127.0.0.1:" + port);
        site = replaced(site, "  listen [::]:443 ssl http2;\n", "");
        return replaced(site, "/etc/ssl/yoru", place.toString());
    }

    private static String replaced(String text, String part, String by) {
        assertThat(text).as(SHIPPED.toString()).contains(part);
        return text.replace(part, by);
    }

    private Process process(String... command) throws IOException {
        return new ProcessBuilder(command)
                .directory(place.toFile())
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(
                        place.resolve("said.log").toFile()))
                .start();
    }

    /** Whoever trusts its certificate, and no other. */
    HttpClient.Builder trusting() throws IOException, GeneralSecurityException {
        var keys = KeyStore.getInstance(KeyStore.getDefaultType());
        keys.load(null);
        try (var certificate = Files.newInputStream(place.resolve("fullchain.pem"))) {
            keys.setCertificateEntry(
                    "nginx", CertificateFactory.getInstance("X.509").generateCertificate(certificate));
        }
        var trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trust.init(keys);
        var tls = SSLContext.getInstance("TLS");
        tls.init(null, trust.getTrustManagers(), null);
        return HttpClient.newBuilder().sslContext(tls);
    }
}
