package yoru.server.systems;

import com.standardwebhooks.Webhook;
import com.standardwebhooks.exceptions.EmptyWebhookSecretException;
import com.standardwebhooks.exceptions.WebhookVerificationException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;

/** The connected systems. */
@Service
public class Connections {

    private static final Duration LATELY = Duration.ofSeconds(5);

    private final ConnectionTable table;
    private final Secrets secrets;
    private final Journal journal;
    private final Clock clock;
    private final Map<String, Instant> lastNoted = new ConcurrentHashMap<>();

    Connections(ConnectionTable table, Secrets secrets, Journal journal, Clock clock) {
        this.table = table;
        this.secrets = secrets;
        this.journal = journal;
        this.clock = clock;
    }

    /** A connection to make; the secrets are encrypted before they are kept. */
    public record Wanted(
            String id, SystemKind kind, String title, String address, String signingSecret, String token) {}

    /** Makes the connection, or changes the one with the same id. */
    @Transactional
    public void connect(Wanted wanted) {
        var connection = table.findById(wanted.id)
                .orElseGet(() ->
                        new Connection(wanted.id, wanted.kind, wanted.title, wanted.address, new byte[0], new byte[0]));
        connection.address = wanted.address;
        connection.signingSecret = secrets.lock(wanted.signingSecret);
        connection.token = secrets.lock(wanted.token);
        table.save(connection);
    }

    @Transactional(readOnly = true)
    public List<Connection> all() {
        return table.findAllByOrderByTitle();
    }

    @Transactional(readOnly = true)
    public Optional<Connection> find(String id) {
        return table.findById(id);
    }

    @Transactional(readOnly = true)
    public List<Connection> ofKind(SystemKind kind) {
        return table.findByKindOrderById(kind);
    }

    /** What lets Yoru in at the system. */
    public String token(Connection connection) {
        return secrets.open(connection.token);
    }

    /**
     * Checks a report's signature and timestamp as Standard Webhooks 1.0 says, on the raw body. One that fails is
     * counted and leaves a line in the journal, nothing else.
     *
     * @param headers the request's, by name in lower case
     */
    @Transactional
    public boolean verify(Connection connection, String body, Map<String, List<String>> headers) {
        try {
            new Webhook(secrets.open(connection.signingSecret)).verify(body, headers);
        } catch (WebhookVerificationException | EmptyWebhookSecretException e) {
            table.countRefused(connection.id);
            journal.gather(
                    Kind.REFUSED, "A report was turned away", connection.title + ": " + e.getMessage(), connection.id);
            return false;
        }
        return true;
    }

    /** Notes that the system has reported something; not each time, for thousands of reports must not queue up for one row. */
    @Transactional
    public void heard(String id) {
        var now = clock.instant();
        var noted = lastNoted.merge(id, now, (before, it) -> before.isBefore(it.minus(LATELY)) ? it : before);
        if (noted.equals(now)) {
            table.heard(id, now);
        }
    }

    @Transactional
    void catalogueRead(String id, Optional<String> fault) {
        table.findById(id).ifPresent(connection -> {
            connection.catalogueFault = fault.orElse(null);
            if (fault.isEmpty()) {
                connection.catalogueAt = clock.instant();
            }
        });
    }
}
