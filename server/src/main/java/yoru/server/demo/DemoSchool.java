package yoru.server.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.Period;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.support.PathMatchingResourcePatternResolver;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.policies.Policies;
import yoru.formats.StoryDocument;
import yoru.server.accounts.Accounts;
import yoru.server.desk.ActSheet;
import yoru.server.desk.Quotes;
import yoru.server.intake.Matchings;
import yoru.server.mapping.Draft;
import yoru.server.mapping.DraftCell;
import yoru.server.mapping.Mapping;
import yoru.server.mapping.PublishedPast;
import yoru.server.platform.ProblemException;
import yoru.server.platform.YoruSettings;
import yoru.server.policies.SchoolPolicies;
import yoru.server.rehearsals.Rehearsals;
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
    private static final String MARKET = "market-stall";
    private static final Pattern DAYS_AGO = Pattern.compile("\\{(moment|day)-ago:(\\d+)}");
    private static final Logger LOG = LoggerFactory.getLogger(DemoSchool.class);

    private final DemoSettings settings;
    private final YoruSettings.@Nullable SignIn signIn;
    private final Accounts accounts;
    private final Connections connections;
    private final CatalogueReader catalogues;
    private final Rulebooks rulebooks;
    /** Tags that only follow-ups put on. */
    private static final Map<String, String> REACTION_TAGS =
            Map.of("first-timer", "First timer", "could-join", "Could join", "was-refunded", "Was refunded");

    private final Mapping mapping;
    private final Matchings matchings;
    private final SchoolPolicies policies;
    private final Rehearsals rehearsals;
    private final Quotes quotes;
    private final JsonMapper json;
    private final Clock clock;
    private final AtomicBoolean ready = new AtomicBoolean();

    DemoSchool(
            DemoSettings settings,
            YoruSettings yoru,
            Accounts accounts,
            Connections connections,
            CatalogueReader catalogues,
            Rulebooks rulebooks,
            Mapping mapping,
            Matchings matchings,
            SchoolPolicies policies,
            Rehearsals rehearsals,
            Quotes quotes,
            JsonMapper json,
            Clock clock) {
        this.quotes = quotes;
        this.clock = clock;
        this.settings = settings;
        this.signIn = yoru.demoSignIn();
        this.accounts = accounts;
        this.connections = connections;
        this.catalogues = catalogues;
        this.rulebooks = rulebooks;
        this.mapping = mapping;
        this.matchings = matchings;
        this.policies = policies;
        this.rehearsals = rehearsals;
        this.json = json;
    }

    @EventListener(ApplicationReadyEvent.class)
    @Order(0)
    void setUp() throws IOException {
        if (signIn != null) {
            setUp(signIn);
        }
        ready.set(true);
    }

    private void setUp(YoruSettings.SignIn signIn) throws IOException {
        if (accounts.isEmpty()) {
            accounts.makeOwnerOfPracticeSchool(signIn.email(), OPERATOR, signIn.password());
            policies.change(
                    new Policies(Policies.Guests.HOLD, Policies.UnknownContacts.MAKE, Policies.Joining.ASK, null)
                            .withGuestsProve(true),
                    OPERATOR);
        }
        connect("practice-shop", SystemKind.SHOP, "Practice shop", settings.shop());
        connect("practice-classroom", SystemKind.CLASSROOM, "Practice classroom", settings.classroom());
        connect("practice-contacts", SystemKind.CONTACTS, "Practice contacts", settings.contacts());
        connect("practice-community", SystemKind.COMMUNITY, "Practice community", settings.community());
        connect("practice-mailbox", SystemKind.MAILBOX, "Practice mailbox", settings.mailbox());
        connect(MARKET, SystemKind.SHOP, "Market stall", settings.market());
        for (var connection : connections.all()) {
            var fault = catalogues.read(connection);
            fault.ifPresent(said -> LOG.warn("{} {}", connection.title(), said));
        }
        if (rulebooks.current().number() == 0) {
            publishMapping();
            makeQuotes();
            matchMarket();
        }
    }

    /** The stall's till speaks in words of its own. */
    private void matchMarket() throws IOException {
        if (settings.market() != null) {
            try (var document = new ClassPathResource("demo/market.json").getInputStream()) {
                matchings.keep(MARKET, json.readTree(document), 0, "As the till writes its slips", OPERATOR);
            }
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

    /** One publish of the school's. */
    private record Step(String note, @Nullable List<Draft.DraftThing> things, List<DraftCell> changes) {}

    private void publishMapping() throws IOException {
        var file = new ClassPathResource("demo/mapping.json").getContentAsString(StandardCharsets.UTF_8);
        int base = 0;
        for (Step step : json.readValue(dated(file), Step[].class)) {
            try {
                mapping.publish(base++, new Draft(step.changes, step.things, null).wanted(), step.note, OPERATOR);
            } catch (ProblemException e) {
                LOG.warn("The demo's mapping was not published: {}", e.getMessage());
                return;
            }
        }
        publishFollowups();
    }

    /**
     * A follow-up of the school's, in force as if it had been for some time.
     *
     * @param past for how long; none = it serves nothing from before
     * @param letters whether it wrote then
     */
    private record Reaction(@Nullable Period past, boolean letters, JsonNode followup) {}

    /** In one publish, over the mapping that is there by then. */
    private void publishFollowups() throws IOException {
        var file = new ClassPathResource("demo/followups.json").getContentAsString(StandardCharsets.UTF_8);
        var things = new ArrayList<Draft.DraftThing>();
        REACTION_TAGS.forEach((tag, title) -> things.add(
                new Draft.DraftThing("tag/" + tag, json.createObjectNode().put("title", title))));
        var past = new ArrayList<PublishedPast.From>();
        var now = clock.instant().atZone(ZoneOffset.UTC);
        for (Reaction it : json.readValue(file, Reaction[].class)) {
            var id = it.followup.path("id").stringValue();
            things.add(new Draft.DraftThing("followup/" + id, it.followup));
            if (it.past != null) {
                past.add(new PublishedPast.From(id, now.minus(it.past).toInstant(), it.letters));
            }
        }
        mapping.publish(
                rulebooks.current().number(),
                new Draft(List.of(), things, null).wanted(),
                new PublishedPast(false, past),
                "Follow-ups",
                OPERATOR);
        keepRehearsals();
    }

    private void keepRehearsals() throws IOException {
        for (var file : new PathMatchingResourcePatternResolver().getResources("classpath:demo/rehearsals/*.yaml")) {
            rehearsals.keep(StoryDocument.read(file.getContentAsString(StandardCharsets.UTF_8)), 0, OPERATOR);
        }
    }

    /** @param agreed what was answered; none = it waits for one */
    private record QuoteToMake(
            String key, @Nullable Period validFor, @Nullable Boolean agreed, ActSheet sheet) {}

    private void makeQuotes() throws IOException {
        var file = new ClassPathResource("demo/quotes.json").getContentAsString(StandardCharsets.UTF_8);
        var today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        for (QuoteToMake it : json.readValue(file, QuoteToMake[].class)) {
            var until = it.validFor == null ? null : today.plus(it.validFor);
            long id = quotes.make(it.key, it.sheet, until, OPERATOR).quote().id();
            if (Boolean.TRUE.equals(it.agreed)) {
                quotes.agree(id, OPERATOR);
            } else if (it.agreed != null) {
                quotes.decline(id, OPERATOR);
            }
        }
    }

    /** Days are counted back from today, so that the school's past is always the same length. */
    private String dated(String file) {
        return DAYS_AGO.matcher(file).replaceAll(found -> {
            var at =
                    clock.instant().truncatedTo(ChronoUnit.DAYS).minus(Duration.ofDays(Long.parseLong(found.group(2))));
            return found.group(1).equals("moment")
                    ? at.toString()
                    : LocalDateTime.ofInstant(at, ZoneOffset.UTC).toString();
        });
    }
}
