package yoru.server.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.context.event.EventListener;
import org.springframework.core.io.ClassPathResource;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.policies.Policies;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.formats.RulebookDocument;
import yoru.formats.ThingChange;
import yoru.server.accounts.Accounts;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.Wanted;
import yoru.server.platform.ProblemException;
import yoru.server.platform.YoruSettings;
import yoru.server.policies.SchoolPolicies;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.CatalogueReader;
import yoru.server.systems.Connections;
import yoru.server.systems.SystemKind;

/**
 * Sets the invented school up as an operator would, step by step through the same services: account, connections,
 * catalogues, mapping. What is there already is left as it is. Without an account for the demo among the settings it does
 * nothing: which beans there are is decided while building.
 */
@Component
class DemoSchool implements HealthIndicator {

    private static final String OPERATOR = "Signe Holm";
    private static final Logger LOG = LoggerFactory.getLogger(DemoSchool.class);

    private final DemoSettings settings;
    private final YoruSettings.@Nullable SignIn signIn;
    private final Accounts accounts;
    private final Connections connections;
    private final CatalogueReader catalogues;
    private final Rulebooks rulebooks;
    private final Mapping mapping;
    private final SchoolPolicies policies;
    private final JsonMapper json;
    private final AtomicBoolean ready = new AtomicBoolean();

    DemoSchool(
            DemoSettings settings,
            YoruSettings yoru,
            Accounts accounts,
            Connections connections,
            CatalogueReader catalogues,
            Rulebooks rulebooks,
            Mapping mapping,
            SchoolPolicies policies,
            JsonMapper json) {
        this.settings = settings;
        this.signIn = yoru.demoSignIn();
        this.accounts = accounts;
        this.connections = connections;
        this.catalogues = catalogues;
        this.rulebooks = rulebooks;
        this.mapping = mapping;
        this.policies = policies;
        this.json = json;
    }

    @EventListener(ApplicationReadyEvent.class)
    void setUp() throws IOException {
        if (signIn != null) {
            setUp(signIn);
        }
        ready.set(true);
    }

    private void setUp(YoruSettings.SignIn signIn) throws IOException {
        if (accounts.isEmpty()) {
            accounts.makeOwner(signIn.email(), OPERATOR, signIn.password());
            policies.change(
                    new Policies(Policies.Guests.HOLD, Policies.UnknownContacts.MAKE, Policies.Joining.ASK, null),
                    OPERATOR);
        }
        connect("practice-shop", SystemKind.SHOP, "Practice shop", settings.shop());
        connect("practice-classroom", SystemKind.CLASSROOM, "Practice classroom", settings.classroom());
        connect("practice-contacts", SystemKind.CONTACTS, "Practice contacts", settings.contacts());
        connect("practice-community", SystemKind.COMMUNITY, "Practice community", settings.community());
        connect("practice-mailbox", SystemKind.MAILBOX, "Practice mailbox", settings.mailbox());
        for (var connection : connections.all()) {
            var fault = catalogues.read(connection);
            fault.ifPresent(said -> LOG.warn("{} {}", connection.title(), said));
        }
        if (rulebooks.current().number() == 0) {
            publishMapping();
        }
    }

    @Override
    public Health health() {
        return ready.get()
                ? Health.up().build()
                : Health.outOfService().withDetail("demo", "being set up").build();
    }

    private void connect(String id, SystemKind kind, String title, DemoSettings.@Nullable Place place) {
        if (place == null) {
            return;
        }
        connections.connect(new Connections.ConnectionSheet(
                id, kind, title, place.address(), place.signingSecret(), place.token()));
        connections.set(id, place.settings());
    }

    private void publishMapping() throws IOException {
        var file = new ClassPathResource("demo/mapping.json").getContentAsString(StandardCharsets.UTF_8);
        int base = 0;
        for (JsonNode publish : json.readTree(file)) {
            try {
                mapping.publish(
                        base++,
                        new Wanted(null, things(publish.path("things")), changes(publish.get("changes"))),
                        publish.get("note").stringValue(),
                        OPERATOR);
            } catch (ProblemException e) {
                LOG.warn("The demo's mapping was not published: {}", e.getMessage());
                return;
            }
        }
    }

    private static List<ThingChange> things(JsonNode things) {
        return things.valueStream()
                .map(thing -> new ThingChange(thing.get("path").stringValue(), thing.get("thing")))
                .toList();
    }

    private static List<CellChange> changes(JsonNode cells) {
        var changes = new ArrayList<CellChange>();
        for (JsonNode cell : cells) {
            changes.add(new CellChange(
                    Source.read(cell.get("from").stringValue()),
                    Destination.to(Target.read(cell.get("to").stringValue())),
                    RulebookDocument.terms(cell.get("terms"))));
        }
        return changes;
    }
}
