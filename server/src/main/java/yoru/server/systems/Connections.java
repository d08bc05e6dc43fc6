package yoru.server.systems;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Secrets;

/** The connected systems. */
@Service
public class Connections {

    private static final Duration LATELY = Duration.ofSeconds(5);
    private static final Duration OVERLAP = Duration.ofHours(24);
    /** What a connection may set: how reports prove where they come from; {@link #BEARER}, else by their signature. */
    public static final String PROOF = "proof";

    /** The secret comes along in the header Authorization, for systems that cannot sign. */
    public static final String BEARER = "bearer";

    /** Set where somebody has said that what goes there may be read on its way; else it is encrypted or not sent. */
    public static final String OPENLY = "openly";

    /** The name of the field that says when the next of what a person has ends; none = there is no such field. */
    public static final String NEXT_END = "nextEndField";

    private static final TypeReference<Map<String, String>> SETTINGS = new TypeReference<>() {};

    private final ConnectionTable table;
    private final Secrets secrets;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final JsonMapper json;
    private final Clock clock;
    private final Map<String, Instant> lastNoted = new ConcurrentHashMap<>();

    Connections(
            ConnectionTable table,
            Secrets secrets,
            Journal journal,
            ApplicationEventPublisher events,
            JsonMapper json,
            Clock clock) {
        this.table = table;
        this.secrets = secrets;
        this.journal = journal;
        this.events = events;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A connection to make; the secrets are encrypted before they are kept.
     *
     * @param signingSecret none = keep what there is
     * @param token none = keep what there is
     */
    public record ConnectionSheet(
            String id,
            SystemKind kind,
            String title,
            String address,
            @Nullable String signingSecret,
            @Nullable String token) {}

    /** Makes the connection and switches it on, or changes the one with the same id. */
    @Transactional
    public void connect(ConnectionSheet wanted) {
        var known = table.findById(wanted.id);
        var connection = known.orElseGet(
                () -> new Connection(wanted.id, wanted.kind, wanted.title, wanted.address, Connection.State.ON));
        connection.address = wanted.address;
        keepSecrets(connection, wanted);
        table.save(connection);
        if (known.isEmpty()) {
            events.publishEvent(new SystemSwitchedOn(wanted.id));
        }
    }

    /** Makes a connection that is off: nothing goes there or comes from there before it is switched on. */
    @Transactional
    public Connection add(ConnectionSheet wanted, String operator) {
        var connection = new Connection(wanted.id, wanted.kind, wanted.title, wanted.address, Connection.State.OFF);
        keepSecrets(connection, wanted);
        noteOperator("System added", wanted.title, operator);
        return table.save(connection);
    }

    @Transactional
    public Connection change(
            String id, @Nullable String title, @Nullable String address, @Nullable String token, String operator) {
        var connection = get(id);
        var before = connection.address;
        if (title != null) {
            connection.title = title;
        }
        if (address != null) {
            if (token == null && connection.token != null && !isSamePlace(before, address)) {
                throw new ProblemException(
                        HttpStatus.UNPROCESSABLE_CONTENT,
                        "The token is needed again",
                        "It was entered for %s and is sent nowhere else: enter it, or another, with the new address."
                                .formatted(before));
            }
            connection.address = address;
        }
        if (token != null) {
            connection.token = secrets.lock(token);
        }
        noteOperator(
                "System changed",
                connection.title
                        + (before.equals(connection.address)
                                ? ""
                                : ": at " + connection.address + ", before at " + before)
                        + (token == null ? "" : ", with another token"),
                operator);
        return connection;
    }

    /** Whether what is sent to the one address arrives at the same server, as safely, as what is sent to the other. */
    private static boolean isSamePlace(String one, String other) {
        return authority(one).equals(authority(other));
    }

    /** Scheme, host and port (RFC 6454, 4). */
    private static String authority(String address) {
        var uri = URI.create(address);
        return "%s://%s:%d"
                .formatted(uri.getScheme(), uri.getHost(), uri.getPort())
                .toLowerCase(Locale.ROOT);
    }

    /** Sets what is named, and leaves the rest. */
    @Transactional
    public Connection set(String id, Map<String, String> settings) {
        var connection = get(id);
        var all = new HashMap<>(settings(connection));
        boolean otherField =
                !settings.getOrDefault(NEXT_END, all.getOrDefault(NEXT_END, "")).equals(all.getOrDefault(NEXT_END, ""));
        all.putAll(settings);
        connection.settings = json.writeValueAsString(all);
        if (otherField && connection.isOn()) {
            events.publishEvent(new SystemSwitchedOn(id)); // everybody's is set
        }
        return connection;
    }

    /** Takes a new secret; the one before is good for another day, so that both sides need not change at once. */
    @Transactional
    public Connection changeSecret(String id, String secret, String operator) {
        var connection = get(id);
        connection.formerSecret = connection.signingSecret;
        connection.formerSecretUntil =
                connection.signingSecret == null ? null : clock.instant().plus(OVERLAP);
        connection.signingSecret = secrets.lock(secret);
        connection.secretAt = clock.instant();
        noteOperator("Secret changed", connection.title, operator);
        return connection;
    }

    @Transactional
    public Connection become(String id, Connection.State state, String operator) {
        var connection = get(id);
        if (connection.state != state) {
            connection.state = state;
            noteOperator(
                    switch (state) {
                        case ON -> "System switched on";
                        case TRYING -> "System is being tried";
                        case OFF -> "System switched off";
                    },
                    connection.title,
                    operator);
            if (state == Connection.State.ON) {
                events.publishEvent(new SystemSwitchedOn(id));
            }
        }
        return connection;
    }

    @Transactional(readOnly = true)
    public List<Connection> all() {
        return table.findAllByOrderByTitle();
    }

    @Transactional(readOnly = true)
    public Optional<Connection> find(String id) {
        return table.findById(id);
    }

    /** What a system is called; its id where it is no longer there. */
    @Transactional(readOnly = true)
    public String title(String id) {
        return find(id).map(Connection::title).orElse(id);
    }

    /** @throws ProblemException when there is none */
    @Transactional(readOnly = true)
    public Connection get(String id) {
        return find(id).orElseThrow(() -> ProblemException.notFound("No system " + id + "."));
    }

    public Map<String, String> settings(Connection connection) {
        return json.readValue(connection.settings, SETTINGS);
    }

    /** What a connector works with. */
    public Place place(Connection connection) {
        return new Place(
                connection.id,
                connection.title,
                connection.kind,
                connection.address,
                connection.token == null ? "" : secrets.open(connection.token),
                goodSecrets(connection),
                settings(connection));
    }

    /**
     * Checks a report's signature and timestamp as Standard Webhooks 1.0 says, on the raw body. One that fails is
     * counted and leaves a line in the journal, nothing else.
     *
     * @param headers the request's, by name in lower case
     */
    @Transactional
    public boolean verify(Connection connection, String body, Map<String, List<String>> headers) {
        boolean bearer = BEARER.equals(settings(connection).get(PROOF));
        var signature = Signature.of(headers);
        var fault = Optional.of("no secret is agreed");
        for (String secret : goodSecrets(connection)) {
            fault = bearer
                    ? Optional.of("it does not carry the secret").filter(_ -> !carries(headers, secret))
                    : signature.fault(secret, body, clock.instant());
            if (fault.isEmpty()) {
                return true;
            }
        }
        table.countRefused(connection.id);
        journal.gather(
                Kind.REFUSED, "A report was turned away", connection.title + ": " + fault.orElseThrow(), connection.id);
        return false;
    }

    /** The hosts of all connected systems, with the port where one is named: where people may be sent. */
    @Transactional(readOnly = true)
    public Set<String> hosts() {
        return all().stream()
                .filter(connection -> frontPage(connection).isPresent())
                .flatMap(connection ->
                        Stream.ofNullable(URI.create(connection.address()).getAuthority()))
                .map(authority -> authority.toLowerCase(Locale.ROOT))
                .collect(Collectors.toSet());
    }

    /** Where people look at a system with their browser; nothing where it has no pages. */
    public Optional<String> frontPage(Connection connection) {
        return switch (connection.kind()) {
            case SHOP, CLASSROOM, COMMUNITY ->
                Optional.of(URI.create(connection.address()).resolve("/").toString());
            case CONTACTS, MAILBOX, LISTENER, FOLDER -> Optional.empty();
        };
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

    private void keepSecrets(Connection connection, ConnectionSheet wanted) {
        if (wanted.signingSecret != null) {
            connection.signingSecret = secrets.lock(wanted.signingSecret);
            connection.secretAt = clock.instant();
        }
        if (wanted.token != null) {
            connection.token = secrets.lock(wanted.token);
        }
    }

    private static boolean carries(Map<String, List<String>> headers, String secret) {
        var wanted = ("Bearer " + secret).getBytes(StandardCharsets.UTF_8);
        return headers.getOrDefault("authorization", List.of()).stream()
                .anyMatch(given -> MessageDigest.isEqual(given.getBytes(StandardCharsets.UTF_8), wanted));
    }

    private List<String> goodSecrets(Connection connection) {
        var good = new ArrayList<String>();
        if (connection.signingSecret != null) {
            good.add(secrets.open(connection.signingSecret));
        }
        if (connection.formerSecret != null
                && connection.formerSecretUntil != null
                && clock.instant().isBefore(connection.formerSecretUntil)) {
            good.add(secrets.open(connection.formerSecret));
        }
        return good;
    }

    private void noteOperator(String what, String title, String operator) {
        journal.write(new Journal.Line(Kind.OPERATOR, what, title, operator, null, null));
    }
}
