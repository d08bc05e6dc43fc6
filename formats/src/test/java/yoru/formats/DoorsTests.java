package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yoru.core.doors.DoorChange;
import yoru.core.doors.Doors;
import yoru.core.doors.Offer;
import yoru.core.findings.Findings;
import yoru.core.findings.Observed;
import yoru.core.rehearsal.Rehearsal;
import yoru.core.rehearsal.Surroundings;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookDifference;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;

/** What people meet at the doors of a small school, worked out by hand. */
class DoorsTests {

    private static final String SCHOOL = """
            yoru: rulebook/1
            school: { zone: Europe/Dublin, currency: EUR, tiers: [open, core], ladders: [ { id: hive } ] }
            courses:
            - { id: queen, title: Queen Rearing, sections: [ { id: why, title: Why rear queens }, { id: grafting, title: Grafting, tier: core } ] }
            - { id: health, title: Hive Health }
            - { id: archive, title: Archive }
            products:
            - { id: QUEEN, title: Queen Rearing, options: [ { id: SELF, title: Self-paced }, { id: LIVE, title: With live calls } ] }
            - { id: BOX, title: Everything }
            - { id: CLUB, title: Club, billing: { kind: recurring, every: P1M } }
            - { id: OLD, title: Old offer }
            - { id: VEIL, title: Veil }
            levels:
            - { id: forager, title: Forager, ladder: hive, rank: 1 }
            - { id: warden, title: Warden, ladder: hive, rank: 2, allowance: { courses: 1 } }
            links:
            - { id: L1, from: { option: SELF }, to: [ { course: queen } ] }
            - { id: L2, from: { option: LIVE }, to: [ { course: queen } ] }
            - { id: L3, from: { product: BOX }, to: [ { course: queen }, { course: health } ] }
            - { id: L4, from: { product: CLUB }, to: [ { level: forager }, { level: warden } ] }
            - { id: L5, from: { level: warden }, to: [ { course: queen } ] }
            - { id: L6, from: { level: forager }, to: [ { course: archive } ] }
            - { id: L7, from: { product: OLD }, to: [ { course: queen } ], applies: { until: 2026-01-01T00:00:00Z, afterwards: run-out } }
            - { id: L8, from: { completed: health }, to: [ { course: queen } ] }
            """;

    private static final Instant NOW = Instant.parse("2026-06-01T10:00:00Z");
    private static final Target QUEEN = new Target.OfCourse("queen");
    private static final Target HEALTH = new Target.OfCourse("health");
    private static final Target ARCHIVE = new Target.OfCourse("archive");

    private static final List<Offer> OFFERS = List.of(
            offer("BOX", null, "Everything", "300"),
            offer("QUEEN", "LIVE", "Queen Rearing, With live calls", "240.00"),
            offer("QUEEN", "SELF", "Queen Rearing, Self-paced", "180.00"),
            offer("CLUB", null, "Club", "20.00"),
            offer("OLD", null, "Old offer", "9.00"),
            offer("VEIL", null, "Veil", "30.00"));

    private static final Landscape CLASSROOM = new Landscape(List.of(new ConnectedSystem(
            "classroom",
            "Classroom",
            true,
            Set.of(Ability.ENROLMENT, Ability.CATALOGUE),
            Map.of(QUEEN, "https://classroom.example/courses/queen"),
            "https://classroom.example/",
            null)));

    private static Offer offer(String product, @Nullable String option, String title, String price) {
        return new Offer(
                product,
                option,
                title,
                new BigDecimal(price),
                Currency.getInstance("EUR"),
                "https://shop.example/basket/" + product + (option == null ? "" : "/" + option));
    }

    private static Rulebook rulebook(String doors) {
        return RulebookDocument.read(SCHOOL + "doors:\n" + doors);
    }

    private static Doors doors(Rulebook rulebook) {
        return new Doors(rulebook, OFFERS, CLASSROOM, "Hollow Oak", NOW);
    }

    @Test
    void waysInAreWhatOpensItTheCheapestFirst() {
        var sign = doors(RulebookDocument.read(SCHOOL)).closed(Side.VISITOR, QUEEN);
        assertThat(sign.ways())
                .extracting(way -> way.offer().title())
                .as("the club by way of its level; what no longer serves anything new and a veil are no ways")
                .containsExactly("Club", "Queen Rearing, Self-paced", "Queen Rearing, With live calls", "Everything");
        assertThat(sign.besides())
                .containsExactly("with Warden", "for whoever finished Hive Health", "to choose with Warden");
        assertThat(sign.text()).contains("Queen Rearing").contains("sign in");
        assertThat(sign.redirect()).isEmpty();
    }

    /** Whoever holds the higher level of a ladder does not hold the lower one: the club opens nothing of it. */
    @Test
    void aWayThatALadderTakesAwayIsNone() {
        assertThat(doors(RulebookDocument.read(SCHOOL))
                        .closed(Side.VISITOR, ARCHIVE)
                        .ways())
                .isEmpty();
    }

    @Test
    void whatADoorLeavesOutIsAsTheWiderPlaceHasIt() {
        var doors = doors(rulebook("""
                - { id: school, visitor: { text: 'At {{school}}.' }, without: { on: true } }
                - { id: course/queen, visitor: { text: '{{title}} from {{price}}: {{product}}.' } }
                - { id: section/queen/grafting, without: { to: 'https://classroom.example/how' } }
                """));
        var grafting = new Target.OfSection("queen", "grafting");
        assertThat(doors.closed(Side.VISITOR, grafting).text()).isEqualTo("Grafting from €20.00 every 1 month: Club.");
        assertThat(doors.closed(Side.VISITOR, HEALTH).text()).isEqualTo("At Hollow Oak.");
        assertThat(doors.closed(Side.WITHOUT, grafting).redirect()).contains("https://classroom.example/how");
        assertThat(doors.closed(Side.WITHOUT, QUEEN).redirect())
                .as("straight to where it is sold")
                .contains("https://shop.example/basket/CLUB");
        assertThat(doors.closed(Side.WITHOUT, ARCHIVE))
                .as("nothing that opens it is sold: people read why they are not let in")
                .satisfies(sign -> {
                    assertThat(sign.redirect()).isEmpty();
                    assertThat(sign.text()).contains("Archive is not open for you");
                });
    }

    @Test
    void afterBuyingPeopleAreLedToWhatTheyMayOpen() {
        var rulebook = rulebook("- { id: product/BOX, bought: { on: true } }");
        var doors = doors(rulebook);
        var queen = doors.bought(rulebook.product("QUEEN").orElseThrow(), "LIVE");
        assertThat(queen.note()).startsWith("Thank you. Queen Rearing, With live calls opens Queen Rearing;");
        assertThat(queen.on().orElseThrow().address()).isEqualTo("https://classroom.example/courses/queen");
        var unmapped = doors.bought(rulebook.product("QUEEN").orElseThrow(), null);
        assertThat(unmapped.on()).as("without an option it opens nothing").isEmpty();
        assertThat(doors.bought(rulebook.product("VEIL").orElseThrow(), null).note())
                .isEqualTo("Thank you for Veil.");
        assertThat(doors.bought(rulebook.product("BOX").orElseThrow(), null).lists())
                .isTrue();
    }

    @Test
    void aDraftSaysWhatPeopleWillMeetInstead() {
        var before = RulebookDocument.read(SCHOOL);
        var after = rulebook("- { id: course/health, without: { text: 'Ask us.' } }");
        var changes = DoorChange.between(doors(before), before, doors(after), after);
        assertThat(changes).singleElement().satisfies(change -> {
            assertThat(change.place()).isEqualTo("course/health");
            assertThat(change.side()).isEqualTo(Side.WITHOUT);
            assertThat(change.now()).startsWith("“Ask us.” Get it: Everything, €300.00");
        });
        var unmapped = after.withLinks(
                after.links().stream().filter(link -> !link.id().equals("L3")).toList());
        assertThat(DoorChange.between(doors(after), after, doors(unmapped), unmapped))
                .as("a link that goes takes its way in along")
                .extracting(DoorChange::place)
                .containsOnly("course/queen", "course/health", "product/BOX");
        var worded = rulebook("- { id: product/QUEEN, bought: { text: 'Welcome to {{opened}}.' } }");
        assertThat(DoorChange.between(doors(before), before, doors(worded), worded))
                .as("it is bought by its options, and so is each of them met")
                .extracting(DoorChange::title, DoorChange::now)
                .containsExactly(
                        tuple("Queen Rearing, Self-paced", "“Welcome to Queen Rearing.” Button: Open Queen Rearing"),
                        tuple(
                                "Queen Rearing, With live calls",
                                "“Welcome to Queen Rearing.” Button: Open Queen Rearing"));
        assertThat(new RulebookDifference(before, after).more(Object::toString))
                .containsExactly("New: door of Hive Health");
    }

    @Test
    void aDoorIsWrittenAndReadAgain() {
        var rulebook = rulebook("""
                - { id: school, visitor: { on: true }, bought: { text: 'Thank you for {{product}}' }, openParts: signed-in }
                - { id: course/queen, signedIn: { wanted: false, to: 'https://classroom.example/a?b=c#d' }, openParts: everybody }
                - { id: level/warden, signedIn: { to: 'https://classroom.example/wardens' } }
                """);
        assertThat(RulebookDocument.read(RulebookDocument.yaml(rulebook))).isEqualTo(rulebook);
        var changes = RulebookEdit.difference(RulebookDocument.read(SCHOOL), rulebook);
        assertThat(changes)
                .extracting(ThingChange::thing)
                .containsExactly("door/school", "door/course/queen", "door/level/warden");
        assertThat(RulebookEdit.edited(RulebookDocument.read(SCHOOL), changes, List.of()))
                .isEqualTo(rulebook);
        assertThat(doors(rulebook).openParts("health")).hasToString("SIGNED_IN");
        assertThat(doors(rulebook).lowest(rulebook.course("queen").orElseThrow()))
                .extracting("id")
                .containsExactly("why");
    }

    @Test
    void aStorySaysWhatIsMetAfterBuyingAndAtTheDoorThatCloses() {
        var rulebook = rulebook("- { id: course/queen, without: { text: 'Ask us.' } }");
        var story = StoryDocument.read("""
                yoru: story/1
                id: met
                title: Met
                starts: 2026-06-01T09:00
                people: [ { id: ines } ]
                steps:
                - { buys: { lines: [ { product: QUEEN, option: SELF } ] } }
                - { after: P1D, refunds: {} }
                """);
        var around = new Surroundings(
                "Hollow Oak", CLASSROOM, Map.of(), Surroundings.Prices.UNKNOWN, false, true, null, OFFERS, false);
        var steps = new Rehearsal(rulebook, around).of(story).steps();
        assertThat(steps.getFirst().meets())
                .singleElement()
                .asString()
                .startsWith("after buying Queen Rearing: “Thank you. Queen Rearing, Self-paced opens Queen Rearing;");
        assertThat(steps.getLast().meets())
                .singleElement()
                .asString()
                .startsWith("at the door of Queen Rearing: “Ask us.” Get it: Club, €20.00 every 1 month");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            { id: course/quen }                                        | doors[0].id: no course `quen`; did you mean `queen`?
            { id: section/queen/wax }                                  | doors[0].id.section[1]: no section `wax` in course `queen`
            { id: product/QUEEN, visitor: { on: true } }               | doors[0].visitor: is not for a product; allowed: bought
            { id: area/x, openParts: everybody }                       | doors[0].openParts: is only for a course or the school
            { id: school, visitor: { text: '{{buyer}}' } }             | doors[0].visitor.text: there is no {{buyer}} here
            { id: school, visitor: { to: 'javascript:alert(1)' } }     | doors[0].visitor.to: must be an address that begins with https://
            { id: school, visitor: { to: 'https://shop.example@evil.example/' } } | doors[0].visitor.to: must be an address
            { id: school, visitor: { to: 'https://x.example', on: true } } | doors[0].visitor: must be an object with exactly one of
            """)
    void whatCannotBeIsNamed(String door, String fault) {
        assertThatThrownBy(() -> rulebook("- " + door)).hasMessageContaining(fault.replace("``", "`"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            { id: course/queen, visitor: { to: 'https://elsewhere.example/' } }           | LEADS_OUTSIDE door/course/queen
            { id: school, without: { to: 'https://classroom.example/gone' } }             | LEADS_NOWHERE door/school
            { id: course/queen, visitor: { to: 'https://classroom.example/slow' } }       | LEADS_NOWHERE door/course/queen
            { id: course/archive, without: { on: true } }                                 | NOT_FOR_SALE door/course/archive
            { id: course/queen, without: { to: 'https://shop.example/basket/GONE' } }     | NOT_FOR_SALE door/course/queen
            { id: product/VEIL, bought: { to: 'https://classroom.example/courses/queen/why' } } | LANDS_BEFORE_CLOSED door/product/VEIL
            { id: product/BOX, bought: { to: 'https://classroom.example/courses/queen' } } |
            { id: course/queen, signedIn: { wanted: false } }                             | SIGN_IN_FORGETS door/course/queen
            { id: course/queen, without: { on: true }, visitor: { text: 'x' } }           |
            """)
    void whoeverWouldBeLedAstrayIsFound(String door, @Nullable String finding) {
        var found = new ArrayList<>(found(rulebook("- " + door)));
        found.removeAll(found(RulebookDocument.read(SCHOOL)));
        assertThat(found).isEqualTo(finding == null ? List.of() : List.of(finding));
    }

    @Test
    void aDoorThatShowsNoWayInIsFound() {
        var given = SCHOOL + "tags: [ { id: guest } ]\n";
        var rulebook = RulebookDocument.read(given.replace(
                "- { id: L1,", "- { id: L9, from: { tag: guest }, to: [ { course: archive } ] }\n- { id: L1,"));
        var other = rulebook.withLinks(rulebook.links().stream()
                .filter(link -> !link.id().equals("L6"))
                .toList());
        var without = other.with(
                Sort.LEVEL,
                other.levels().stream()
                        .filter(level -> level.allowance().isEmpty())
                        .toList());
        assertThat(found(without)).contains("DOOR_WITHOUT_WAY door/course/archive");
        assertThat(found(rulebook)).doesNotContain("DOOR_WITHOUT_WAY door/course/archive");
    }

    private static List<String> found(Rulebook rulebook) {
        var paths = new Observed.Paths(
                OFFERS,
                Set.of("https://shop.example/basket/GONE"),
                CLASSROOM,
                Set.of("classroom.example", "shop.example"),
                Map.of(
                        "https://classroom.example/gone", 404,
                        "https://classroom.example/slow", 0,
                        "https://classroom.example/courses/queen", 200),
                NOW);
        var observed =
                new Observed(List.of(), null, null, Set.of(), List.of(), List.of(), List.of(), null, null, paths);
        return new Findings(rulebook)
                .check(observed).stream()
                        .map(finding -> finding.kind() + " " + finding.subject())
                        .toList();
    }

    @Test
    void anAddressTooLongIsRefused() {
        assertThatThrownBy(() ->
                        rulebook("- { id: school, visitor: { to: 'https://x.example/" + "a".repeat(4_000) + "' } }"))
                .hasMessageContaining("at most 2000 characters");
    }
}
