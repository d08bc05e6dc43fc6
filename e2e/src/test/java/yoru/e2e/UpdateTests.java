package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import yoru.e2e.School.Part;

/**
 * What an earlier version has kept is taken over. The dump is of the demo at migration 35 (630 people, 4,397 facts), made by
 * that version; so is the digest of what it evaluated.
 */
class UpdateTests {

    private static final Path DUMP = Path.of("src", "test", "resources", "before", "demo-35.dump");
    private static final Instant AS_OF = Instant.parse("2026-12-01T06:30:00Z");
    private static final String EVALUATED = "e03bb55445ae4c2bba94313b3b816a5548b45ddb49f36715fa1a163d8acfd703";

    private final School school = School.on(DUMP);

    @AfterEach
    void close() {
        school.close();
    }

    @Test
    void theVersionBeforeIsTakenOverAndEverybodyHasTheSame() throws Exception {
        assertThat(school.count(Part.SERVER, "select max(version::int) from flyway_schema_history"))
                .isEqualTo(35);
        school.start(Part.SERVER);
        assertThat(school.count(Part.SERVER, "select max(version::int) from flyway_schema_history"))
                .isGreaterThan(35);
        var owner = SignedIn.to(school);
        assertThat(owner.get("/api/people?q=")).contains("@");
        assertThat(owner.get("/api/today")).contains("systems");
        assertThat(owner.get("/api/journal")).contains("title");

        var rulebook = school.rows(
                        Part.SERVER, "select document::text from rulebook_version order by number desc limit 1")
                .getFirst();
        var rows = YoruCommand.evaluate(school, rulebook, AS_OF);
        assertThat(digest(String.join("\n", rows) + "\n")).isEqualTo(EVALUATED);
        assertThat(owner.get("/api/exports/access.csv?at=" + AS_OF).lines())
                .as("the server says the same as the command")
                .containsExactlyInAnyOrderElementsOf(rows);
    }

    @Test
    void aMigrationThatFailsChangesNothing() throws Exception {
        school.start(Part.SERVER);
        school.stop(Part.SERVER);
        var migrations = school.count(Part.SERVER, "select count(*) from flyway_schema_history");
        var broken = Files.createDirectories(Path.of("target", "broken-migration"));
        Files.writeString(broken.resolve("V9999__half_done.sql"), """
                create table half_done (id int);
                update fact set subject = 'nobody';
                select 1 / 0;
                """);
        var said = school.refusesToStart(
                Map.of("SPRING_FLYWAY_LOCATIONS", "classpath:db/migration,filesystem:" + broken.toAbsolutePath()));
        assertThat(said).contains("V9999__half_done.sql");
        assertThat(school.count(Part.SERVER, "select count(*) from pg_class where relname = 'half_done'"))
                .isZero();
        assertThat(school.count(Part.SERVER, "select count(*) from fact where subject = 'nobody'"))
                .isZero();
        assertThat(school.count(Part.SERVER, "select count(*) from flyway_schema_history"))
                .isEqualTo(migrations);
        school.start(Part.SERVER);
        assertThat(SignedIn.to(school).get("/api/people?q=")).contains("@");
    }

    private static String digest(String text) throws Exception {
        return HexFormat.of()
                .formatHex(MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
    }
}
