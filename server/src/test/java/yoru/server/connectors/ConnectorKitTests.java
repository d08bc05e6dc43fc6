package yoru.server.connectors;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.policies.Policies.UnknownContacts;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.ServerTest;
import yoru.server.StandIn;
import yoru.server.systems.Connector;
import yoru.server.systems.Connector.Found;
import yoru.server.systems.Connectors;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * What every connector has to do with the system on its other side. A new pair of connector and stand-in is one more
 * line of {@link Pair}.
 */
@ServerTest
class ConnectorKitTests {

    /** A connector and a practice system; two targets that the system has, one that it has not. */
    enum Pair {
        CLASSROOM("classroom", "", new Target.OfCourse("first-hive"), new Target.OfCourse("no-such-course"), true),
        DOWNLOADS("classroom", "", new Target.OfDownload("honey-labels"), new Target.OfDownload("no-such"), true),
        GROUPS("community", "/scim", new Target.OfGroup("study-circle"), new Target.OfGroup("no-such"), false),
        AREAS("community", "/scim", new Target.OfArea("members-hall"), new Target.OfArea("no-such"), false),
        TAGS("contacts", "", new Target.OfTag("likes-mead"), null, true),
        LISTS("contacts", "", new Target.OfList("newsletter"), new Target.OfList("no-such"), true);

        private final String standIn;
        private final String path;
        private final Target target;
        private final @Nullable Target unknown;
        private final boolean keepsRevisions;

        Pair(String standIn, String path, Target target, @Nullable Target unknown, boolean keepsRevisions) {
            this.standIn = standIn;
            this.path = path;
            this.target = target;
            this.unknown = unknown;
            this.keepsRevisions = keepsRevisions;
        }
    }

    @Autowired
    private Connectors connectors;

    @BeforeAll
    static void start() {
        StandIn.startAll("classroom", "community", "contacts");
    }

    @AfterEach
    void behave() {
        List.of("classroom", "community", "contacts")
                .forEach(name -> StandIn.of(name).behave(""));
    }

    @ParameterizedTest
    @EnumSource
    void showsARealRecordAndListsWhatItHas(Pair pair) {
        assertThat(connector(pair).sample(place(pair)).record()).isNotBlank();
        assertThat(connector(pair).catalogue(place(pair)))
                .anySatisfy(listed -> assertThat(pair.target.path()).endsWith("/" + listed.id()));
    }

    @ParameterizedTest
    @EnumSource
    void statesWhatShouldBeSoHoweverOftenItIsSaid(Pair pair) {
        var person = somebody(pair);
        var until = Instant.now().plus(30, ChronoUnit.DAYS).truncatedTo(ChronoUnit.SECONDS);
        var open = statement(person, pair.target, true, until, 1);
        connector(pair).tell(place(pair), open);
        assertThat(connector(pair).tell(place(pair), open)).isNotBlank();
        assertThat(has(pair, person)).hasValueSatisfying(found -> {
            if (found.dated()) {
                assertThat(found.until()).isEqualTo(until);
            }
        });
        var closed = statement(person, pair.target, false, null, 2);
        connector(pair).tell(place(pair), closed);
        connector(pair).tell(place(pair), closed);
        assertThat(has(pair, person)).isEmpty();
        connector(pair).tell(place(pair), statement(person, pair.target, true, null, 3));
        assertThat(has(pair, person)).isPresent();
    }

    @ParameterizedTest
    @EnumSource
    void anOlderStateThatArrivesLateChangesNothing(Pair pair) {
        assumeTrue(pair.keepsRevisions, "SCIM has no revisions; one lane for each person keeps the order");
        var person = somebody(pair);
        connector(pair).tell(place(pair), statement(person, pair.target, false, null, 7));
        try {
            connector(pair).tell(place(pair), statement(person, pair.target, true, null, 6));
        } catch (TroubleException e) {
            assertThat(e.trouble()).isEqualTo(Trouble.NOT_CONFIRMED);
        }
        assertThat(has(pair, person)).isEmpty();
    }

    @ParameterizedTest
    @EnumSource
    void whatCannotBeIsRefusedInWords(Pair pair) {
        var person = somebody(pair);
        if (pair.unknown != null) {
            assertTrouble(pair, statement(person, pair.unknown, true, null, 1), Trouble.REFUSED);
        }
        var wrong = new Place("x", "X", kind(pair), place(pair).address(), "wrong", List.of(), Map.of());
        assertThatThrownBy(() -> connector(pair).catalogue(wrong))
                .isInstanceOfSatisfying(
                        TroubleException.class, e -> assertThat(e.trouble()).isEqualTo(Trouble.NOT_LET_IN));
    }

    @ParameterizedTest
    @EnumSource
    void everyTroubleOfTheSystemIsTold(Pair pair) {
        var statement = statement(somebody(pair), pair.target, true, null, 1);
        var standIn = StandIn.of(pair.standIn);
        standIn.behave("busy=true");
        assertThat(assertTrouble(pair, statement, Trouble.BUSY).retryAfter()).hasValue(Duration.ofSeconds(2));
        standIn.behave("faultyOneIn=1");
        assertThat(assertTrouble(pair, statement, Trouble.BROKEN).words())
                .isEqualTo("answered 500: bees in the server");
        standIn.behave("down=true");
        assertTrouble(pair, statement, Trouble.CUT_OFF);
        if (pair == Pair.CLASSROOM) { // it takes its time, and is the same for all
            standIn.behave("slowSeconds=11");
            assertTrouble(pair, statement, Trouble.SLOW);
        }
        standIn.behave("");
        connector(pair).tell(place(pair), statement);
        assertThat(has(pair, statement.person())).isPresent();
    }

    @ParameterizedTest
    @EnumSource
    void aSystemThatForgetsIsFoundOutByWhatItLists(Pair pair) {
        var person = somebody(pair);
        StandIn.of(pair.standIn).behave("forgetful=true");
        connector(pair).tell(place(pair), statement(person, pair.target, true, null, 1));
        assertThat(has(pair, person)).isEmpty();
    }

    @ParameterizedTest
    @EnumSource
    void aPreviewSaysWhatIsSent(Pair pair) throws IOException {
        var person = somebody(pair);
        var until = Instant.now().plus(30, ChronoUnit.DAYS).truncatedTo(ChronoUnit.SECONDS);
        try (var wire = new Wire(StandIn.of(pair.standIn).address())) {
            var place = place(pair, wire.address());
            for (var statement : List.of(
                    statement(person, pair.target, true, until, 1), statement(person, pair.target, false, null, 2))) {
                var preview = connector(pair).preview(place, statement);
                assertThat(wire.changes()).as("nothing is sent yet").isEmpty();
                connector(pair).tell(place, statement);
                assertThat(wire.changes())
                        .singleElement()
                        .asString()
                        .isEqualTo(preview.replace(person, nameThere(pair, person)));
                wire.changes().clear();
            }
        }
    }

    /** How the system calls somebody in what is sent; an address in a path is sent as in its preview. */
    private static String nameThere(Pair pair, String person) {
        if (kind(pair) != SystemKind.COMMUNITY) {
            return person;
        }
        var found = StandIn.of("community")
                .get("/scim/Users?filter="
                        + URLEncoder.encode("userName eq \"" + person + "\"", StandardCharsets.UTF_8));
        return JsonMapper.shared()
                .readTree(found)
                .path("Resources")
                .path(0)
                .path("id")
                .asString();
    }

    @Test
    void aFieldSaysWhatItWasToldLast() {
        var person = somebody(Pair.TAGS);
        for (String value : List.of("2027-03-01", "")) {
            var said = JsonMapper.shared().valueToTree(value);
            var statement =
                    new Statement(person, "Kit", new Matter.Field("ends next"), true, null, false, 1, key(), said);
            assertThat(connector(Pair.TAGS).tell(place(Pair.TAGS), statement)).isEqualTo("field set");
            assertThat(StandIn.of("contacts").get("/api/contacts?after=&limit=1000"))
                    .contains("\"ends next\":\"" + value + "\"");
        }
    }

    @Test
    void whoeverIsNoContactIsHeldOrLeftOutWhereThatIsThePolicy() {
        var person = "o'kit+" + UUID.randomUUID() + "@post.example";
        for (Matter matter :
                List.of(new Matter.Account(), new Matter.Access(Pair.TAGS.target), new Matter.Field("seen"))) {
            assertThat(connector(Pair.TAGS).tell(place(Pair.TAGS), about(person, matter, UnknownContacts.SKIP)))
                    .isEqualTo(Connector.LEFT_OUT);
            assertTrouble(Pair.TAGS, about(person, matter, UnknownContacts.HOLD), Trouble.STRANGER);
        }
        assertThat(StandIn.of("contacts").get("/api/contacts?after=&limit=1000"))
                .doesNotContain(person);
        connector(Pair.TAGS).tell(place(Pair.TAGS), about(person, new Matter.Account(), UnknownContacts.MAKE));
        var tag = about(person, new Matter.Access(Pair.TAGS.target), UnknownContacts.SKIP);
        assertThat(connector(Pair.TAGS).tell(place(Pair.TAGS), tag)).isEqualTo("tagged");
        var nowhere = new Matter.Access(new Target.OfList("nowhere"));
        assertTrouble(Pair.TAGS, about(person, nowhere, UnknownContacts.SKIP), Trouble.REFUSED);
    }

    private static Statement about(String person, Matter matter, UnknownContacts unknown) {
        return new Statement(
                person,
                "Kit",
                matter,
                true,
                null,
                false,
                1,
                key(),
                matter instanceof Matter.Field ? JsonMapper.shared().valueToTree("x") : null,
                unknown);
    }

    private TroubleException assertTrouble(Pair pair, Statement statement, Trouble trouble) {
        var caught = new ArrayList<TroubleException>();
        assertThatThrownBy(() -> connector(pair).tell(place(pair), statement))
                .isInstanceOfSatisfying(TroubleException.class, caught::add);
        assertThat(caught.getFirst().trouble()).as(caught.getFirst().words()).isEqualTo(trouble);
        assertThat(trouble.advice()).isNotBlank();
        return caught.getFirst();
    }

    /** Known to the system, where it wants to know people first. */
    private String somebody(Pair pair) {
        var person = "o'kit+" + UUID.randomUUID() + "@post.example";
        if (connector(pair).abilities().contains(Ability.ACCOUNTS)) {
            var account =
                    new Statement(person, "Kit \"O'Hara\"", new Matter.Account(), true, null, false, 1, key(), null);
            connector(pair).tell(place(pair), account);
            connector(pair).tell(place(pair), account);
        }
        return person;
    }

    private Optional<Found> has(Pair pair, String person) {
        var all = new ArrayList<Found>();
        String from = null;
        do {
            var part = connector(pair).list(place(pair), from);
            all.addAll(part.found());
            from = part.next().orElse(null);
        } while (from != null);
        return all.stream()
                .filter(found -> found.person().equals(person) && found.target().equals(pair.target))
                .findFirst();
    }

    private Connector connector(Pair pair) {
        return connectors.of(kind(pair));
    }

    private static SystemKind kind(Pair pair) {
        return SystemKind.valueOf(pair.standIn.toUpperCase(java.util.Locale.ROOT));
    }

    private static Place place(Pair pair) {
        return place(pair, StandIn.of(pair.standIn).address());
    }

    private static Place place(Pair pair, String address) {
        return new Place(
                pair.standIn,
                pair.standIn,
                kind(pair),
                address + pair.path,
                StandIn.of(pair.standIn).token(),
                List.of(),
                Map.of());
    }

    private static Statement statement(
            String person, Target target, boolean open, @Nullable Instant until, int revision) {
        return new Statement(
                person,
                "Kit O'Hara",
                new Matter.Access(target),
                open,
                until,
                false,
                revision,
                key() + "-" + revision,
                null);
    }

    private static String key() {
        return "kit-" + UUID.randomUUID();
    }
}
