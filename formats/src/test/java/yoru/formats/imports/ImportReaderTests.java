package yoru.formats.imports;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import yoru.core.rulebook.Rulebook;
import yoru.formats.OneRosterCsv;
import yoru.formats.OneRosterCsv.Enrolment;
import yoru.formats.OneRosterCsv.Learner;
import yoru.formats.OneRosterCsv.Roster;
import yoru.formats.OneRosterCsv.RosterCourse;
import yoru.formats.RulebookDocument;
import yoru.formats.imports.ImportKind.Field;
import yoru.formats.imports.ImportMatching.Dates;
import yoru.formats.matching.Rows;

class ImportReaderTests {

    private static final Rulebook RULEBOOK = RulebookDocument.read("""
            yoru: rulebook/1
            school: { zone: Europe/Dublin, currency: EUR }
            courses: [ { id: first-hive, title: First Hive } ]
            products: [ { id: FIRST, title: First Hive }, { id: VEIL-S, title: Veil }, { id: VEIL-L, title: Veil } ]
            levels: [ { id: keeper, title: Keeper } ]
            links: []
            """);

    private static final Instant NOW = Instant.parse("2026-11-01T10:00:00Z");

    private static List<ImportEntry> read(ImportKind kind, Dates dates, String csv) {
        var rows = Rows.read(csv);
        var reader = new ImportReader(kind, new ImportMatching(kind.guess(rows.columns()), dates), RULEBOOK, NOW);
        assertThat(reader.missing(rows.columns())).isEmpty();
        return reader.read(rows);
    }

    private static List<String> events(ImportEntry entry) {
        var said = new ArrayList<String>();
        entry.facts().forEach(it -> {
            var fact = it.fact();
            said.add(it.event().path("type").asString().replace("yoru.", "") + " " + fact.time());
        });
        return said;
    }

    /** Rows of one order belong together wherever they stand; times are Dublin's, an hour ahead of UTC in summer. */
    @Test
    void ordersOfSeveralRowsBecomeOneOrderWithItsMoney() {
        var entries = read(ImportKind.ORDERS, Dates.DAY_FIRST, """
                Order ID;E-mail;Customer name;Order date;SKU;Amount;Date paid;Refunded
                A1;Ada@Post.example;Ada Byron;01/07/2025 10:30;FIRST;1.180,50 €;02/07/2025;
                B2;ben@post.example;;15.1.2026;GONE;60;;
                A1;ada@post.example;Ada Byron;01/07/2025 10:30;FIRST;0,00;02/07/2025;5-7-2025
                """);
        assertThat(entries).extracting(ImportEntry::rows).containsExactly(List.of(2L, 4L), List.of(3L));
        assertThat(events(entries.getFirst()))
                .containsExactly(
                        "order.placed 2025-07-01T09:30:00Z",
                        "order.paid 2025-07-01T23:00:00Z",
                        "order.refunded 2025-07-04T23:00:00Z");
        var lines = entries.getFirst().facts().getFirst().event().path("data").path("lines");
        assertThat(lines.findValuesAsString("amount")).containsExactly("1180.50", "0.00");
        assertThat(entries.getFirst().person()).isEqualTo("ada@post.example");
        assertThat(events(entries.getLast())).containsExactly("order.placed 2026-01-15T00:00:00Z");
        assertThat(entries.getLast().remarks()).singleElement().asString().contains("GONE");
    }

    @Test
    void ofAFaultyRowTheWholeOrderWaitsAndEveryFaultIsNamed() {
        var entries = read(ImportKind.ORDERS, Dates.ISO, """
                order,email,placed,product,amount
                A,ada@post.example,2026-03-01,FIRST,90
                A,ben@post.example,2026-03-01,FIRST,ninety
                B,nobody,soon,,5
                C,cleo@post.example,2026-02-30,FIRST,-3
                D,dora@post.example,2026-03-01,FIRST
                """);
        assertThat(entries).allSatisfy(entry -> {
            assertThat(entry.isFaulty()).isTrue();
            assertThat(entry.facts()).isEmpty();
        });
        assertThat(entries.get(0).faults())
                .containsExactly("row 3: is of the same order, and of somebody else", "row 3: “ninety” is no amount");
        assertThat(entries.get(1).faults())
                .containsExactly(
                        "“nobody” is no e-mail address",
                        "“soon” (placed on) is no day written as chosen",
                        "has no product");
        assertThat(entries.get(2).faults()).hasSize(2);
        assertThat(entries.get(3).faults()).containsExactly("does not have a cell under each column");
    }

    /** Files of the past rarely have ids; a name is as good, as long as it is the name of one thing. */
    @Test
    void whatIsNamedByItsTitleIsTheSameAsByItsId() {
        var orders = read(ImportKind.ORDERS, Dates.ISO, """
                order,email,placed,product,amount
                A,ada@post.example,2026-03-01,first hive,90
                A,ada@post.example,2026-03-01,FIRST,90
                B,ada@post.example,2026-03-01,Veil,9
                C,ada@post.example,2026-03-01,Second Hive,9
                """);
        assertThat(orders.getFirst()
                        .facts()
                        .getFirst()
                        .event()
                        .path("data")
                        .path("lines")
                        .findValuesAsString("product"))
                .containsExactly("FIRST", "FIRST");
        assertThat(orders.get(0).remarks()).isEmpty();
        assertThat(orders.get(1).faults())
                .containsExactly("more than one product is called “Veil”: write the id (VEIL-S, VEIL-L)");
        assertThat(orders.get(2).remarks()).singleElement().asString().contains("Second Hive");
        var csv = "email,course,from\nada@post.example,%s,2025-01-01\n";
        assertThat(read(ImportKind.ENROLMENTS, Dates.ISO, csv.formatted("FIRST HIVE"))
                        .getFirst()
                        .facts())
                .isEqualTo(read(ImportKind.ENROLMENTS, Dates.ISO, csv.formatted("first-hive"))
                        .getFirst()
                        .facts())
                .isNotEmpty();
    }

    @Test
    void whatIsStillToComeIsAFaultButForEnds() {
        var orders = read(ImportKind.ORDERS, Dates.ISO, """
                order,email,placed,product,amount,paid
                A,ada@post.example,2026-12-01,FIRST,90,
                B,ada@post.example,2026-03-01,FIRST,90,2026-11-02
                """);
        assertThat(orders.get(0).faults())
                .containsExactly("“2026-12-01” (placed on) is still to come: a table of the past says what was");
        assertThat(orders.get(1).faults()).singleElement().asString().startsWith("“2026-11-02” (paid on");
        assertThat(read(ImportKind.MEMBERSHIPS, Dates.ISO, """
                email,level,start,end
                ada@post.example,keeper,2025-01-01,2027-01-01
                """).getFirst().faults())
                .isEmpty();
    }

    @Test
    void aWordMaySayWhatBecameOfAnOrder() {
        var orders = read(ImportKind.ORDERS, Dates.DAY_FIRST, """
                Order no,Customer e-mail,Date,Product name,Total,Status
                A,ada@post.example,1/3/2026,FIRST,90,Completed
                B,ada@post.example,1/3/2026,FIRST,90,on-hold
                C,ada@post.example,1/3/2026,FIRST,90,Cancelled
                D,ada@post.example,1/3/2026,FIRST,90,refunded
                E,ada@post.example,1/3/2026,FIRST,90,lost
                """);
        assertThat(orders.stream()
                        .limit(4)
                        .map(it -> events(it).stream()
                                .map(said -> said.split(" ")[0].replace("order.", ""))
                                .toList()))
                .containsExactly(
                        List.of("placed", "paid"),
                        List.of("placed"),
                        List.of("placed", "cancelled"),
                        List.of("placed", "paid", "refunded"));
        assertThat(orders.getLast().faults())
                .containsExactly("“lost” (status) is not known: write paid, unpaid, cancelled or refunded");
    }

    @Test
    void howDaysAreWrittenIsGuessedFromAllOfThem() {
        assertThat(Dates.guess(List.of("2026-03-01", "2026-03-01T10:00:00Z"))).isEqualTo(Dates.ISO);
        assertThat(Dates.guess(List.of("01/03/2026", "2.3.2026 10:15"))).isEqualTo(Dates.DAY_FIRST);
        assertThat(Dates.guess(List.of("01/03/2026", "03/25/2026"))).isEqualTo(Dates.MONTH_FIRST);
        assertThat(Dates.guess(List.of("soon"))).isEqualTo(Dates.ISO);
    }

    @Test
    void membershipsAndEnrolmentsBeginAndEnd() {
        var members = read(ImportKind.MEMBERSHIPS, Dates.ISO, """
                email,level,start,end
                ada@post.example,keeper,2025-01-01,2026-01-01
                ben@post.example,keeper,2025-01-01,
                cleo@post.example,duke,2025-01-01,2024-01-01
                """);
        assertThat(events(members.get(0)))
                .containsExactly("level.started 2025-01-01T00:00:00Z", "level.ended 2026-01-01T00:00:00Z");
        assertThat(events(members.get(1))).containsExactly("level.started 2025-01-01T00:00:00Z");
        assertThat(members.get(2).faults()).containsExactly("there is no level duke", "ends before it begins");
    }

    /** What is written as OneRoster is read back as the same enrolments; users that are no students are left out. */
    @Test
    void aRosterComesBackAsItWentOut() {
        var files = new java.util.HashMap<>(OneRosterCsv.files(new Roster(
                "School",
                LocalDate.parse("2026-01-01"),
                LocalDate.parse("2027-01-01"),
                List.of(new RosterCourse("first-hive", "First Hive")),
                List.of(new Learner("p1", "ada@post.example", "Ada Byron"), new Learner("p2", "ben@post.example", "")),
                List.of(
                        new Enrolment("p1", "first-hive", LocalDate.parse("2026-02-01"), Optional.empty()),
                        new Enrolment(
                                "p2",
                                "first-hive",
                                LocalDate.parse("2026-02-01"),
                                Optional.of(LocalDate.parse("2026-08-01")))))));
        files.compute("enrollments.csv", (name, text) -> text + "t,,,class-first-hive,school,p1,teacher,true,,\n");
        var rows = RosterRows.of(files);
        var matching = new ImportMatching(
                Map.of(
                        Field.PERSON,
                        "person",
                        Field.NAME,
                        "name",
                        Field.COURSE,
                        "course",
                        Field.FROM,
                        "from",
                        Field.UNTIL,
                        "until"),
                Dates.ISO);
        var entries = new ImportReader(ImportKind.ENROLMENTS, matching, RULEBOOK, NOW).read(rows);
        assertThat(entries).extracting(ImportEntry::person).containsExactly("ada@post.example", "ben@post.example");
        assertThat(entries).extracting(ImportEntry::name).containsExactly("Ada Byron", "ben@post.example");
        assertThat(entries.getFirst().facts().getFirst().event().path("data").has("until"))
                .isFalse();
        assertThat(entries.getLast()
                        .facts()
                        .getFirst()
                        .event()
                        .path("data")
                        .path("until")
                        .asString())
                .isEqualTo("2026-07-31T23:00:00Z");
    }

    @Test
    void theSameTableTwiceGivesTheSameIds() {
        var csv = "order,email,placed,product,amount\nA,ada@post.example,2026-03-01,FIRST,90\n";
        assertThat(read(ImportKind.ORDERS, Dates.ISO, csv)).isEqualTo(read(ImportKind.ORDERS, Dates.ISO, csv));
    }
}
