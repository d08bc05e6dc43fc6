package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.model.component.VEvent;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;
import yoru.formats.EndingsCalendar.Event;
import yoru.formats.OneRosterCsv.Enrolment;
import yoru.formats.OneRosterCsv.Learner;
import yoru.formats.OneRosterCsv.Roster;
import yoru.formats.OneRosterCsv.RosterCourse;

/** What leaves the school in other formats, read by others' readers. */
class TakeOutTests {

    private static final Instant NOW = Instant.parse("2026-03-01T10:00:00Z");

    /** RFC 5545, read back by ical4j 4.4.0; names that would break lines, lists and properties come out as they went in. */
    @Test
    void aCalendarIsReadBackAsItWasMeant() throws Exception {
        var hard =
                "Ní Bhriain, Ségolène; \\ the “first”\nof many, with a name that is much longer than a line may be 🐝🐝🐝🐝🐝";
        var text = EndingsCalendar.write(
                "Hollow Oak; endings",
                List.of(new Event("a,b-1", Instant.parse("2026-05-01T09:30:15Z"), hard, "more")),
                NOW);
        assertThat(text.split("\r\n"))
                .allSatisfy(line ->
                        assertThat(line.getBytes(StandardCharsets.UTF_8).length).isLessThanOrEqualTo(75));
        assertThat(text.replace("\r\n", "")).doesNotContain("\n", "\r");
        var calendar = new CalendarBuilder().build(new StringReader(text));
        assertThat(calendar.validate().hasErrors()).isFalse();
        List<VEvent> events = calendar.getComponents("VEVENT");
        assertThat(events).hasSize(1);
        assertThat(events.getFirst().getSummary().getValue()).isEqualTo(hard);
        assertThat(events.getFirst().getUid().orElseThrow().getValue()).isEqualTo("a,b-1");
        assertThat(Instant.from(events.getFirst().getDateTimeStart().getDate())).isEqualTo("2026-05-01T09:30:15Z");
    }

    /** Required columns and enumerations of OneRoster 1.1 CSV, from memory of the 1EdTech specification, section 4. */
    @Test
    void aRosterHasTheFilesColumnsAndWordsThatOneRosterAsksFor() throws Exception {
        var files = OneRosterCsv.files(new Roster(
                "Hollow Oak, Bee School",
                LocalDate.parse("2026-01-01"),
                LocalDate.parse("2027-01-01"),
                List.of(new RosterCourse("first-hive", "First Hive"), new RosterCourse("queen", "Queens, and more")),
                List.of(
                        new Learner("p1", "ada@post.example", "Ada Byron Lovelace"),
                        new Learner("p2", "ben@post.example", "")),
                List.of(
                        new Enrolment(
                                "p1",
                                "queen",
                                LocalDate.parse("2026-02-01"),
                                Optional.of(LocalDate.parse("2027-02-02"))),
                        new Enrolment("p2", "first-hive", LocalDate.parse("2026-02-01"), Optional.empty()))));
        var manifest = rows(files, "manifest.csv");
        assertThat(manifest).anySatisfy(row -> assertThat(row.toList()).containsExactly("oneroster.version", "1.1"));
        for (CSVRecord row : manifest) {
            var property = row.get("propertyName");
            if (property.startsWith("file.")) {
                assertThat(row.get("value")).isIn("bulk", "absent");
                assertThat(files.containsKey(property.substring(5) + ".csv"))
                        .as(property)
                        .isEqualTo(row.get("value").equals("bulk"));
            }
        }
        var ids = new HashSet<String>();
        for (String file : Set.of("orgs", "academicSessions", "courses", "classes", "users", "enrollments")) {
            for (CSVRecord row : rows(files, file + ".csv")) {
                assertThat(ids.add(file + row.get("sourcedId"))).isTrue();
                assertThat(row.get("status") + row.get("dateLastModified"))
                        .as("bulk")
                        .isEmpty();
            }
        }
        assertThat(column(files, "orgs", "type")).containsExactly("school");
        assertThat(column(files, "academicSessions", "type")).containsExactly("schoolYear", "term");
        assertThat(column(files, "classes", "classType")).containsOnly("scheduled");
        assertThat(column(files, "users", "role")).containsOnly("student");
        assertThat(column(files, "users", "givenName")).containsExactly("Ada Byron", "ben@post.example");
        assertThat(column(files, "users", "familyName")).containsExactly("Lovelace", "-");
        assertThat(column(files, "enrollments", "role")).containsOnly("student");
        assertThat(column(files, "enrollments", "endDate")).containsExactly("2027-02-02", "");
        assertThat(column(files, "courses", "title")).containsExactly("First Hive", "Queens, and more");
        refers(files, "enrollments", "userSourcedId", "users");
        refers(files, "enrollments", "classSourcedId", "classes");
        refers(files, "enrollments", "schoolSourcedId", "orgs");
        refers(files, "classes", "courseSourcedId", "courses");
        refers(files, "classes", "termSourcedIds", "academicSessions");
        refers(files, "courses", "orgSourcedId", "orgs");
        refers(files, "users", "orgSourcedIds", "orgs");
    }

    private static void refers(Map<String, String> files, String from, String column, String to) throws Exception {
        assertThat(column(files, to, "sourcedId")).containsAll(column(files, from, column));
    }

    private static List<String> column(Map<String, String> files, String file, String column) throws Exception {
        return rows(files, file + ".csv").stream().map(row -> row.get(column)).toList();
    }

    private static List<CSVRecord> rows(Map<String, String> files, String file) throws Exception {
        var format = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .get();
        try (var parser = format.parse(new StringReader(files.getOrDefault(file, "")))) {
            return parser.getRecords();
        }
    }
}
