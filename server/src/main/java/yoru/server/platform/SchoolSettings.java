package yoru.server.platform;

import java.time.Duration;
import java.time.ZoneId;
import java.util.Currency;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.sql.init.dependency.DependsOnDatabaseInitialization;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.School;

/**
 * Who the school is: as its owner says in the browser, and until then as the installation's settings say. Another server's
 * change is known here within seconds.
 */
@Component
@DependsOnDatabaseInitialization
public class SchoolSettings {

    private static final Duration KNOWN_FOR = Duration.ofSeconds(2);
    private static final Logger LOG = LoggerFactory.getLogger(SchoolSettings.class);

    private final JdbcClient jdbc;
    private final Said byInstallation;
    private final boolean secure;
    private volatile Known known;

    SchoolSettings(JdbcClient jdbc, YoruSettings settings) {
        this.jdbc = jdbc;
        this.byInstallation =
                new Said(settings.schoolName(), settings.zone(), settings.currency(), settings.publicAddress(), 0);
        this.known = read();
        this.secure = publicAddress().startsWith("https://");
    }

    /**
     * What the school says of itself.
     *
     * @param publicAddress under which people outside reach this server; links in letters begin with it
     * @param version counts the changes; 0 = nobody has said anything
     */
    public record Said(String name, ZoneId zone, Currency currency, String publicAddress, int version) {}

    private record Known(Said said, long nanos) {}

    private Known read() {
        var row = jdbc.sql("select name, zone, currency, public_address, version from school")
                .query((result, number) -> new Said(
                        result.getString("name"),
                        ZoneId.of(result.getString("zone")),
                        Currency.getInstance(result.getString("currency")),
                        result.getString("public_address"),
                        result.getInt("version")))
                .optional();
        return new Known(row.orElse(byInstallation), System.nanoTime());
    }

    public Said said() {
        var now = known;
        if (System.nanoTime() - now.nanos < KNOWN_FOR.toNanos()) {
            return now.said;
        }
        try {
            now = read();
        } catch (DataAccessException e) {
            LOG.debug("Who the school is cannot be read; as before.", e);
            now = new Known(now.said, System.nanoTime());
        }
        known = now;
        return now.said;
    }

    /** What is changed counts here at once. */
    public void changed() {
        known = read();
    }

    public String name() {
        return said().name;
    }

    public ZoneId zone() {
        return said().zone;
    }

    public Currency currency() {
        return said().currency;
    }

    public String publicAddress() {
        return said().publicAddress;
    }

    /** Whether people reached this server by TLS when it started: it does not change while somebody is signed in. */
    public boolean isSecure() {
        return secure;
    }

    /** What a cookie is called: where people come by TLS, no other host and no unencrypted page can set it (RFC 6265bis, 4.1.3.2). */
    public String cookie(String name) {
        return secure ? "__Host-" + name : name;
    }

    public School school() {
        return new School(zone(), currency(), OpensOn.PAID);
    }
}
