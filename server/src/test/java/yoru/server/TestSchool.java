package yoru.server;

import com.standardwebhooks.Webhook;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.UUID;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.context.event.EventListener;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;
import yoru.server.accounts.Accounts;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.Wanted;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.CatalogueReader;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.SystemKind;

/** A small school set up in the server under test, and a shop that reports to it over HTTP with real signatures. */
@TestConfiguration(proxyBeanMethods = false)
public class TestSchool {

    static final String SHOP = "shop";
    public static final String EMAIL = "owner@hollowoak.example";
    public static final String PASSWORD = "a hive of words";
    public static final String SECRET = "whsec_"
            + Base64.getEncoder().encodeToString("the shop's secret, 32 bytes long".getBytes(StandardCharsets.UTF_8));
    static final String PRODUCTS = """
            {"products": [
              {"id": "DAY", "title": "One day", "category": "Courses", "price": "5.00", "currency": "EUR", "thing": false},
              {"id": "FIRST", "title": "First Hive", "category": "Courses", "price": "90.00", "currency": "EUR", "thing": false},
              {"id": "HONEY", "title": "Honey Harvest", "category": "Courses", "price": "110.00", "currency": "EUR", "thing": false},
              {"id": "POLLEN", "title": "Pollen Lab", "category": "Courses", "price": "60.00", "currency": "EUR", "thing": false},
              {"id": "KIT", "title": "Smoker & veil", "category": "Things", "price": "64.00", "currency": "EUR", "thing": true}]}""";
    static final String COURSES = """
            {"courses": [
              {"id": "first-hive", "title": "First Hive", "category": "Starter", "content": true, "published": true, "door": "by-enrolment", "sections": []},
              {"id": "honey", "title": "Honey Harvest", "category": "Keeping", "content": true, "published": true, "door": "by-enrolment", "sections": []},
              {"id": "tools", "title": "Tools", "category": "Starter", "content": true, "published": false, "door": "free-sign-up", "sections": []},
              {"id": "pollen", "title": "Pollen Lab", "category": "Advanced", "content": false, "published": false, "door": "by-enrolment", "sections": []}]}""";

    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final HttpClient HTTP = HttpClient.newHttpClient();

    public final StubClassroom classroom = new StubClassroom();

    private final Environment environment;
    private final Accounts accounts;
    private final Connections connections;
    private final CatalogueReader catalogues;
    private final Mapping mapping;
    private final Rulebooks rulebooks;
    private final JdbcClient jdbc;

    TestSchool(
            Environment environment,
            Accounts accounts,
            Connections connections,
            CatalogueReader catalogues,
            Mapping mapping,
            Rulebooks rulebooks,
            JdbcClient jdbc) {
        this.jdbc = jdbc;
        this.environment = environment;
        this.accounts = accounts;
        this.connections = connections;
        this.catalogues = catalogues;
        this.mapping = mapping;
        this.rulebooks = rulebooks;
    }

    @EventListener(ApplicationReadyEvent.class)
    void setUp() {
        if (!accounts.isEmpty()) {
            return; // a second server on the same database
        }
        accounts.makeOwnerOfPracticeSchool(EMAIL, "Owner", PASSWORD);
        connections.connect(new Connections.ConnectionSheet(
                SHOP, SystemKind.SHOP, "Shop", classroom.address() + "/shop", SECRET, "shop-token"));
        connections.connect(new Connections.ConnectionSheet(
                "classroom",
                SystemKind.CLASSROOM,
                "Classroom",
                classroom.address() + "/classroom",
                SECRET,
                "classroom-token"));
        catalogues.readAll();
        publish("FIRST", "first-hive", "P1Y");
        publish("HONEY", "honey", "held");
        publish("DAY", "first-hive", "P1D");
    }

    /** Letters are made and never arrive: its mailbox is away. */
    void connectAMailbox() {
        if (connections.find("mailbox").isEmpty()) {
            connections.connect(new Connections.ConnectionSheet(
                    "mailbox", SystemKind.MAILBOX, "Mailbox", "smtp://127.0.0.1:1", SECRET, "token"));
        }
        connections.become("mailbox", Connection.State.ON, "Owner");
    }

    /** The practice mailbox, which takes letters. */
    void connectThePracticeMailbox(String id) {
        var mailbox = StandIn.of("mailbox");
        connections.connect(new Connections.ConnectionSheet(
                id, SystemKind.MAILBOX, "Mailbox", mailbox.mailAddress(), null, mailbox.token()));
        connections.set(id, java.util.Map.of("user", "yoru", "from", "Hollow Oak <hello@hollowoak.example>"));
        connections.become(id, Connection.State.ON, "Owner");
    }

    /** Where it was connected at all: other tests share the school. */
    void switchOff(String id) {
        if (connections.find(id).isPresent()) {
            connections.become(id, Connection.State.OFF, "Owner");
        }
    }

    /** For tests in which no letter is waited for: the school is shared with them, and its letters never arrive. */
    void switchTheMailboxOff() {
        connections.become("mailbox", Connection.State.OFF, "Owner");
        jdbc.sql("delete from delivery where connection_id = 'mailbox'").update();
    }

    /** The letters to somebody, as they were handed over: subject and text. */
    List<String> letters(String person) {
        return jdbc.sql("""
                        select d.content ->> 'subject' || ' / ' || (d.content ->> 'text')
                        from delivery d join person p on p.id = d.person_id
                        where p.person_key = ? and d.matter like 'letter/%' order by d.id""").param(person).query(String.class).list();
    }

    public void publish(String product, String course, String length) {
        var terms = Terms.DEFAULT.with(
                length.equals("held") ? new Length.Held() : new Length.Lasting(java.time.Period.parse(length)),
                Terms.DEFAULT.refund(),
                Terms.DEFAULT.refundShare());
        var change = new CellChange(new Source.OfProduct(product), Destination.whole(course), terms);
        mapping.publish(rulebooks.current().number(), new Wanted(java.util.List.of(change)), "", "Owner");
    }

    /** Whether there is nothing left to do now. */
    public boolean quiet() {
        return jdbc.sql("""
                        select count(*) from scheduled_tasks
                        where execution_time <= now() and task_instance <> 'recurring'""").query(Long.class).single() == 0;
    }

    String address() {
        return "http://127.0.0.1:" + environment.getProperty("local.server.port");
    }

    public static String someone() {
        return "learner-" + UUID.randomUUID() + "@post.example";
    }

    static String orderId() {
        return "O-" + UUID.randomUUID();
    }

    /** An event about an order, as a shop writes it. */
    static String event(String type, String person, Instant time, String data) {
        return """
                {"specversion": "1.0", "id": "%s", "source": "https://shop.example", "type": "yoru.order.%s",
                 "subject": "%s", "time": "%s", "datacontenttype": "application/json", "data": %s}""".formatted(UUID.randomUUID(), type, person, time, data);
    }

    static String placed(String order, String person, Instant time, String product, String amount) {
        return event("placed", person, time, """
                {"order": "%s", "channel": "shop", "currency": "EUR", "name": "Ines Fitzmaurice",
                 "lines": [{"line": "1", "product": "%s", "amount": "%s"}]}""".formatted(order, product, amount));
    }

    static String about(String what, String order, String person, Instant time) {
        return event(what, person, time, "{\"order\": \"%s\"}".formatted(order));
    }

    /** Buys and pays, as two events. */
    public String buys(String person, String product, Instant time) {
        var order = orderId();
        report(placed(order, person, time, product, "90.00"));
        report(about("paid", order, person, time));
        return order;
    }

    /** Reports an event properly signed. */
    HttpResponse<String> report(String body) {
        return report(body, Instant.now(), SECRET);
    }

    HttpResponse<String> report(String body, Instant signedAt, String secret) {
        return report(address(), body, signedAt, secret);
    }

    /** The same to another server on the same database. */
    HttpResponse<String> reportTo(String server, String body) {
        return report(server, body, Instant.now(), SECRET);
    }

    /** As another connection does. */
    HttpResponse<String> reportFrom(String connection, String body, String secret) {
        return reportFrom(connection, body, secret, Instant.now());
    }

    HttpResponse<String> reportFrom(String connection, String body, String secret, Instant signedAt) {
        return report(
                address() + "/hooks/" + connection,
                body,
                signedAt,
                secret,
                UUID.randomUUID().toString());
    }

    private static HttpResponse<String> report(String server, String body, Instant signedAt, String secret) {
        return report(
                server + "/hooks/" + SHOP,
                body,
                signedAt,
                secret,
                UUID.randomUUID().toString());
    }

    private static HttpResponse<String> report(String hook, String body, Instant signedAt, String secret, String id) {
        try {
            var signature = new Webhook(secret).sign(id, signedAt.getEpochSecond(), body);
            return send(HttpRequest.newBuilder(URI.create(hook))
                    .header("webhook-id", id)
                    .header("webhook-timestamp", String.valueOf(signedAt.getEpochSecond()))
                    .header("webhook-signature", signature)
                    .POST(HttpRequest.BodyPublishers.ofString(body))
                    .build());
        } catch (com.standardwebhooks.exceptions.WebhookSigningException
                | com.standardwebhooks.exceptions.EmptyWebhookSecretException e) {
            throw new IllegalStateException(e);
        }
    }

    public static HttpResponse<String> send(HttpRequest request) {
        try {
            return HTTP.send(request, HttpResponse.BodyHandlers.ofString());
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    static JsonNode json(HttpResponse<String> response) {
        return JSON.readTree(response.body());
    }
}
