package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.time.Period;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yoru.core.findings.CourseState;
import yoru.core.findings.CourseState.Door;
import yoru.core.findings.Finding;
import yoru.core.findings.Finding.Severity;
import yoru.core.findings.Findings;
import yoru.core.findings.Observed;
import yoru.core.findings.Observed.Checkout;
import yoru.core.findings.Observed.Offer;
import yoru.core.findings.Observed.Strangers;
import yoru.core.findings.Observed.Surplus;
import yoru.core.findings.Promise;
import yoru.core.findings.Sales;

/** A school with nothing to find, and one change for each finding that raises it and no other. */
class FindingsTests {

    private static final String WELL = """
            yoru: rulebook/1
            school: { zone: Europe/Dublin, currency: EUR, tiers: [open, core], ladders: [ { id: hive, higherIncludesLower: false } ] }
            courses:
            - { id: first-hive, title: First Hive, categories: [starter] }
            - { id: queen, title: Queen Rearing, categories: [advanced] }
            products:
            - { id: FIRST, title: 'First Hive, 1 year', categories: [courses] }
            - { id: QUEEN, title: Queen Rearing, categories: [courses], options: [ { id: Q-SELF }, { id: Q-LIVE } ] }
            - { id: TALK, title: Talk, categories: [courses] }
            - { id: VEIL, title: Veil, categories: [things] }
            levels:
            - { id: forager, title: Forager, ladder: hive, rank: 1 }
            - { id: keeper, title: Keeper, ladder: hive, rank: 2, allowance: { courses: 1, categories: [advanced] } }
            tags: [ { id: member, title: Member } ]
            links:
            - { id: L1, from: { product: FIRST }, to: [ { course: first-hive } ], terms: { length: P1Y } }
            - { id: L2, from: { option: Q-SELF }, to: [ { course: queen } ] }
            - { id: L3, from: { option: Q-LIVE }, to: [ { course: queen } ] }
            - { id: L4, from: { product: TALK }, to: [ { tag: member } ] }
            - { id: L5, from: { level: forager }, to: [ { category: starter } ] }
            - { id: L6, from: { level: keeper }, to: [ { course: first-hive } ] }
            - { id: L7, from: { tag: member }, to: [ { course: first-hive } ], terms: { until: 2027-01-01T00:00:00 } }
            """;

    private final List<Sales> sales =
            new ArrayList<>(List.of(new Sales("FIRST", 5, false), new Sales("VEIL", 9, true)));
    private final Map<String, String> about = new HashMap<>();
    private Checkout checkout = new Checkout("shop", "The shop", false, true);

    /** What was published; the document that is looked over, unless a test says otherwise. */
    private String published = WELL;

    private final List<Offer> offers = new ArrayList<>(List.of(
            offer("FIRST", "90.00", false),
            offer("QUEEN", "180.00", false),
            offer("TALK", "60.00", false),
            offer("VEIL", "64.00", true)));
    private final List<Strangers> strangers = new ArrayList<>();
    private final List<Surplus> surplus = new ArrayList<>();
    private final Set<String> vanished = new HashSet<>();
    private final List<CourseState> courses = new ArrayList<>(
            List.of(state("first-hive", true, true, Door.YORU_ONLY), state("queen", true, true, Door.YORU_ONLY)));

    @Test
    void whereThereIsNothingToFindNothingIsFound() {
        assertThat(found(WELL)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            - { id: L1, from: { product: FIRST } | - { id: L1, from: { product: TALK }                     | OPENS_NOTHING product/FIRST
            - { id: L3, from: { option: Q-LIVE } | - { id: L3, from: { tag: member }                       | OPTION_OPENS_NOTHING option/Q-LIVE
            - { id: L4, from: { product: TALK }  | - { id: L4, from: { level: keeper }                     | NOT_MAPPED_YET product/TALK
            title: Talk,                         | title: Talk, opensOn: fulfilled,                        | NEVER_FULFILLED product/TALK
            'First Hive, 1 year'                 | 'First Hive, two years'                                 | PROMISE_DIFFERS product/FIRST
            terms: { length: P1Y }               | terms: { length: held }                                 | PROMISE_DIFFERS product/FIRST
            to: [ { tag: member } ] }            | to: [ { tag: member } ] }\\n- { id: L8, from: { completed: queen }, to: [ { category: advanced } ] } | LEADS_TO_ITSELF course/queen
            to: [ { tag: member } ] }            | to: [ { tag: member } ], terms: { refund: keep } }      | TAG_STAYS tag/member
            to: [ { tag: member } ] }            | to: [ { tag: member }, { tag: member } ] }              | TWO_LINKS link/L4
            until: 2027-01-01T00:00:00           | until: 2026-05-01T00:00:00                              | LINK_IS_OVER link/L7
            - { id: L6, from: { level: keeper }, to: [ { course: first-hive } | - { id: L6, from: { level: keeper }, to: [ { course: queen } | LADDER_HOLE level/keeper
            allowance: { courses: 1              | allowance: { courses: 2                                 | ALLOWANCE_TOO_LARGE level/keeper
            to: [ { category: starter } ]        | to: [ { category: starter }, { category: old } ]        | COVERS_NOTHING link/L5
            title: Talk,                         | title: Queen Rearing,                                   | SAME_NAME product/TALK
            """)
    void oneChangeRaisesOneFinding(String text, String instead, String finding) {
        var document = WELL.replace(text, instead.replace("\\n", "\n"));
        assertThat(document).isNotEqualTo(WELL);
        published = document;
        assertThat(found(document)).containsExactly(finding);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            { id: f, when: { paid: { categories: [courses] } }, each: line, steps: [ { tell: { text: '{{row.x}}' } } ], rows: [ { for: { product: FIRST }, values: { x: a } }, { for: { product: QUEEN }, values: { x: b } } ] } | ROW_MISSING
            { id: f, when: { paid: { } }, each: line, steps: [ { tell: { text: '{{row.x}}' } } ], rows: [ { for: { product: FIRST }, values: { x: a } }, { for: { product: QUEEN }, values: { x: a } }, { for: { product: TALK }, values: { x: b } } ] } | ROW_DIFFERS
            { id: f, when: { paid: { categories: [gone] } }, steps: [ { tell: { text: hello } } ] }                                        | NOTHING_STARTS_IT
            { id: f, when: { ending: { of: { category: gone }, before: P1D } }, steps: [ { tell: { text: hello } } ] }                     | NOTHING_STARTS_IT
            { id: f, when: { placed: { products: [FIRST] } }, steps: [ { write: { subject: It is open, text: go in } } ] }                 | WRITES_TOO_EARLY
            { id: f, when: { paid: { products: [FIRST] } }, lasts: always, steps: [ { give: { to: [ { tag: member } ] } } ] }              | LASTS_FOR_GOOD
            { id: f, when: { paid: { products: [FIRST] } }, steps: [ { write: { subject: A, text: a } } ] }@{ id: g, when: { paid: { products: [FIRST] } }, steps: [ { write: { subject: B, text: b } } ] } | TWO_LETTERS
            """)
    void oneFollowUpRaisesOneFinding(String followups, String kind) {
        published = WELL + "followups:\n- " + followups.replace("@", "\n- ") + "\n";
        assertThat(found(published)).containsExactly(kind + " followup/f");
    }

    @Test
    void aPriceInALetterAboutAFreePlaceIsFound() {
        published = WELL.replace("title: Talk,", "title: Talk, billing: { kind: free },")
                + "followups: [ { id: f, when: { paid: { products: [TALK] } }, steps: [ { write: { subject: Thanks, text: 'for your order of €60.00' } } ] } ]\n";
        offers.set(2, offer("TALK", "0.00", false));
        assertThat(found(published)).containsExactly("PRICE_IN_FREE_LETTER followup/f");
    }

    @Test
    void aFollowUpThatIsWellMadeAndOneThatIsOffRaiseNothing() {
        published = WELL + """
                followups:
                - { id: f, when: { paid: { products: [FIRST] } }, steps: [ { give: { to: [ { tag: member } ] } }, { write: { subject: A, text: a } } ] }
                - { id: g, on: false, when: { paid: { categories: [gone] } }, steps: [ { tell: { text: hello } } ] }
                """;
        assertThat(found(published)).isEmpty();
    }

    @Test
    void aLevelThatLeadsNowhereIsFound() {
        assertThat(found(WELL.replace("levels:", "levels:\n- { id: guest, title: Guest, rank: 0 }")))
                .containsExactly("LEVEL_OPENS_NOTHING level/guest");
    }

    @Test
    void whatTheSystemsSayIsLookedAtToo() {
        surplus.add(new Surplus("17", "Ann Moss", List.of("QUEEN")));
        assertThat(found(WELL)).containsExactly("PAID_FOR_MORE order/17");
        surplus.clear();
        sales.add(new Sales("GHOST", 3, false));
        assertThat(found(WELL)).containsExactly("UNKNOWN_PRODUCT product/GHOST");
        sales.removeLast();
        offers.set(0, offer("FIRST", "0.90", false));
        assertThat(found(WELL)).containsExactly("PRICE_FAR_OFF product/FIRST");
        offers.set(0, offer("FIRST", "10.00", false));
        assertThat(found(WELL)).as("cheap, and no more than that").isEmpty();
        offers.removeFirst();
        assertThat(found(WELL)).containsExactly("PRODUCT_GONE product/FIRST");
        offers.addFirst(offer("FIRST", "90.00", false));
        courses.set(1, state("queen", false, true, Door.YORU_ONLY));
        assertThat(found(WELL)).containsExactly("EMPTY course/queen");
        courses.set(1, state("queen", true, false, Door.YORU_ONLY));
        assertThat(found(WELL)).containsExactly("UNPUBLISHED course/queen");
        courses.set(1, state("queen", true, true, Door.FREE_SIGN_UP));
        strangers.add(new Strangers("queen", List.of("Ann Moss", "Bo Fenn"), 3));
        assertThat(found(WELL)).containsExactly("SIDE_DOOR course/queen");
        courses.set(1, state("queen", true, true, Door.YORU_ONLY));
        assertThat(check(WELL))
                .as("the door is shut, and they are in")
                .singleElement()
                .satisfies(finding -> {
                    assertThat(finding.kind()).isEqualTo(Finding.Kind.IN_WITHOUT_REASON);
                    assertThat(finding.people()).isEqualTo(3);
                    assertThat(finding.text()).startsWith("Ann Moss, Bo Fenn and 1 more: ");
                });
        strangers.clear();
        courses.add(state("new", true, true, Door.YORU_ONLY));
        assertThat(found(WELL)).containsExactly("NO_WAY_IN course/new");
        courses.removeLast();
        courses.removeLast();
        assertThat(found(WELL)).as("as made in Yoru").containsExactly("COURSE_NOWHERE course/queen");
        vanished.add("queen");
        assertThat(found(WELL)).containsExactly("COURSE_GONE course/queen");
    }

    @Test
    void howTheShopsSellIsLookedAtToo() {
        checkout = new Checkout("shop", "The shop", true, true);
        assertThat(found(WELL)).containsExactly("GUESTS_CAN_BUY system/shop");
        checkout = new Checkout("shop", "The shop", false, false);
        assertThat(found(WELL)).containsExactly("NO_PASSWORD system/shop");
        checkout = new Checkout("shop", "The shop", false, true);
        courses.set(1, new CourseState("queen", "queen", true, true, Door.YORU_ONLY, true));
        assertThat(found(WELL)).containsExactly("SOLD_ELSEWHERE course/queen");
        courses.set(1, state("queen", true, true, Door.YORU_ONLY));
        about.put("QUEEN", "Grafting and mating. Open for one month.");
        offers.set(1, offer("QUEEN", "180.00", false));
        assertThat(found(WELL)).as("options alone say another time").isEmpty();
        about.put("FIRST", "Two years of it.");
        offers.set(0, offer("FIRST", "90.00", false));
        assertThat(found(WELL)).as("the name says a year, and it is one").isEmpty();
        assertThat(found(WELL.replace("'First Hive, 1 year'", "First Hive")))
                .containsExactly("PROMISE_DIFFERS product/FIRST", "RENAMED product/FIRST");
    }

    @Test
    void instalmentsThatAddUpToLessThanTheSinglePriceAreFound() {
        var plan = WELL.replace("products:", """
                products:
                - { id: PLAN, title: In parts, categories: [parts], billing: { kind: instalments, count: 12, every: P1M } }""")
                .replace("links:", "links:\n- { id: L0, from: { product: PLAN }, to: [ { tag: member } ] }");
        offers.add(offer("PLAN", "72.00", false));
        assertThat(found(plan)).as("a fifth more, as is usual").isEmpty();
        offers.set(4, offer("PLAN", "6.00", false));
        assertThat(found(plan)).containsExactly("INSTALMENTS_TOO_CHEAP product/PLAN");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            First Hive, six months             | P6M
            First Hive - 6-month access        | P6M
            Half a year of First Hive          | P6M
            First Hive, half-year              | P6M
            First Hive, one month              | P1M
            First Hive for a month             | P1M
            First Hive, twelve months          | P1Y
            First Hive, 52 weeks               | P364D
            First Hive, a year and a half      |
            First Hive, one and a half years   |
            First Hive, 1.5 years              |
            First Hive, one year and a half    |
            Once a month                       |
            """)
    void aTimeInANameIsReadAsPeopleWriteIt(String name, @Nullable Period promised) {
        assertThat(Promise.in(name).map(Period::normalized))
                .isEqualTo(Optional.ofNullable(promised).map(Period::normalized));
    }

    @Test
    void whatIsPaidForAgainAndAgainLastsAsLongAsThatAndALevelIsPromisedToo() {
        var monthly = WELL.replace(
                "title: Talk, categories: [courses]",
                "title: 'Circle, 1 month', categories: [courses], billing: { kind: recurring, every: P1M }");
        var level = monthly.replace("to: [ { tag: member } ]", "to: [ { level: keeper } ]");
        published = level;
        assertThat(found(level)).isEmpty();
        published = level.replace("{ level: keeper } ]", "{ level: keeper } ], terms: { length: P1Y }");
        assertThat(check(published)).singleElement().satisfies(finding -> {
            assertThat(finding.kind()).isEqualTo(Finding.Kind.PROMISE_DIFFERS);
            assertThat(finding.text()).isEqualTo("It is called “Circle, 1 month”, and opens Keeper for 1 year.");
        });
    }

    @Test
    void aChangeIsToldWhatItBringsWhatStandsAtItAndWhatItMends() {
        courses.set(1, state("queen", false, true, Door.YORU_ONLY));
        var before = check(WELL.replace("'First Hive, 1 year'", "'First Hive, two years'"));
        var after = check(WELL.replace("- { id: L4, from: { product: TALK }", "- { id: L4, from: { level: keeper }"));
        var turn = Findings.turn(before, after, Set.of("product/TALK", "course/queen"));
        assertThat(words(turn.brought())).containsExactly("NOT_MAPPED_YET product/TALK");
        assertThat(words(turn.standing())).containsExactly("EMPTY course/queen");
        assertThat(turn.mended()).as("the time and the name").isEqualTo(2);
        assertThat(Findings.turn(before, before, Set.of())).isEqualTo(new Findings.Turn(List.of(), List.of(), 0));
    }

    @Test
    void whatChangedByItselfSinceThePublishIsFound() {
        published = WELL.replace("title: Talk,", "title: Chat,");
        assertThat(found(WELL)).containsExactly("RENAMED product/TALK");
        published = WELL.replace("title: Queen Rearing, categories: [advanced]", "title: Queen Rearing");
        assertThat(found(WELL)).as("no link names the category").isEmpty();
        published = WELL.replace("title: First Hive, categories: [starter]", "title: First Hive");
        assertThat(found(WELL)).containsExactly("COVERS_MORE link/L5");
        published = published.replace("- { id: L5", "- { id: L5b");
        assertThat(found(WELL)).as("the link itself is new").isEmpty();
    }

    @Test
    void aRulebookAloneIsLookedOverForWhatItSays() {
        var alone = new Findings(RulebookDocument.read(WELL.replace("tags: [", "tags: [ { id: lost },")))
                .check(Observed.NOTHING);
        assertThat(words(alone)).containsExactly("NOT_MAPPED_YET product/VEIL", "TAG_UNUSED tag/lost");
        assertThat(alone).extracting(one -> one.kind().severity()).containsOnly(Severity.NOTE);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            [ { tag: member } ] }     | [ { tag: member } ], terms: { refund: keep } }
            'First Hive, 1 year'      | 'First Hive, two years'
            until: 2027-01-01T00:00:00 | until: 2026-05-01T00:00:00
            """)
    void aFixPutsItRight(String text, String instead) {
        published = WELL.replace(text, instead);
        var rulebook = RulebookDocument.read(published);
        var finding = new Findings(rulebook).check(observed()).getFirst();
        assertThat(finding.fix()).isNotEmpty();
        assertThat(new Findings(rulebook.with(finding.fix())).check(observed()))
                .extracting(Finding::kind)
                .doesNotContain(finding.kind());
    }

    @Test
    void moreBuyersAreNothingNewAndAnotherTermIs() {
        var before = check(WELL.replace("'First Hive, 1 year'", "'First Hive, two years'"))
                .getFirst();
        var after = check(WELL.replace("'First Hive, 1 year'", "'First Hive, three years'"))
                .getFirst();
        assertThat(after.evidence()).isNotEqualTo(before.evidence());
        var unmapped = WELL.replace("L1, from: { product: FIRST }", "L1, from: { product: TALK }");
        var few = check(unmapped).getFirst();
        sales.set(0, new Sales("FIRST", 50, false));
        var many = check(unmapped).getFirst();
        assertThat(many.people()).isEqualTo(50);
        assertThat(many.evidence()).isEqualTo(few.evidence());
    }

    private List<String> found(String document) {
        return words(check(document));
    }

    private List<Finding> check(String document) {
        return new Findings(RulebookDocument.read(document)).check(observed());
    }

    private Observed observed() {
        return new Observed(
                sales,
                offers,
                courses,
                vanished,
                strangers,
                surplus,
                List.of(checkout),
                RulebookDocument.read(published),
                LocalDateTime.parse("2026-06-01T00:00:00"),
                null);
    }

    private static List<String> words(List<Finding> findings) {
        assertThat(findings).allSatisfy(finding -> {
            assertThat(finding.title()).isNotBlank();
            assertThat(finding.text()).endsWith(".");
            assertThat(finding.advice()).endsWith(".");
        });
        return findings.stream()
                .map(finding -> finding.kind() + " " + finding.subject())
                .toList();
    }

    private Offer offer(String product, String price, boolean thing) {
        return new Offer(product, new BigDecimal(price), "EUR", thing, about.getOrDefault(product, ""));
    }

    private static CourseState state(String id, boolean content, boolean published, Door door) {
        return new CourseState(id, id, content, published, door, false);
    }
}
