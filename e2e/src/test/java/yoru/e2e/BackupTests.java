package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import yoru.e2e.School.Part;

/** What is backed up while everything runs is there again after it was brought back, and nothing happens because of that. */
class BackupTests {

    private static final Duration LONG = Duration.ofMinutes(2);
    private static final String ORDERED =
            ", \"channel\": \"shop\", \"currency\": \"EUR\", \"lines\": [{\"line\": \"1\", \"product\": \"FIRST\", \"amount\": \"64.00\"}]";

    private final School school = School.running();

    @Test
    void theSameIsThereAgainNobodyErasedSinceIsAndNobodyIsToldAnything() throws Exception {
        var owner = SignedIn.to(school);
        var kept = somebody(owner);
        var erased = somebody(owner);
        buys();
        await().atMost(LONG)
                .until(() ->
                        school.quiet() && !runs(school, erased, Instant.now()).isEmpty());
        var file = Path.of("target", "school-" + UUID.randomUUID() + ".backup").toAbsolutePath();
        var runs = runs(school, erased, Instant.now());
        assertThat(school.command(school.database(Part.SERVER), "backup", file.toString()))
                .contains("Everything that");
        assertThat(Files.readString(file, java.nio.charset.StandardCharsets.ISO_8859_1))
                .as("nobody reads it without the passphrase")
                .doesNotContain(kept, "PGDMP", "yoru-backup");
        act(owner, "{\"kind\": \"ERASE\", \"person\": \"%s\"}".formatted(erased));
        await().atMost(LONG).until(() -> !people(owner).contains(erased));
        await().atMost(LONG).until(school::quiet);
        var at = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        var rulebook = owner.get("/api/mapping/rulebook");
        var access = access(owner, at);
        var letters = school.letters("@");

        var database = "restored_" + UUID.randomUUID().toString().replace("-", "");
        assertThat(school.command(database, "restore", file.toString())).contains("All systems are switched off");
        assertThatThrownBy(() -> school.command(database, "restore", file.toString()))
                .hasMessageContaining("there is something");
        var restored = School.restored(school, database);
        try {
            var again = SignedIn.to(restored);
            await().atMost(LONG).until(() -> !people(again).contains(erased));
            assertThat(people(again)).contains(kept);
            assertThat(again.get("/api/mapping/rulebook")).isEqualTo(rulebook);
            assertThat(access(again, at)).isEqualTo(access);
            assertThat(runs(restored, erased, at))
                    .as("what follow-ups did is not done again, and nothing that was done is forgotten")
                    .containsAll(runs);
            assertThat(JsonMapper.shared().readTree(again.get("/api/systems")).findValuesAsString("state"))
                    .isNotEmpty()
                    .allSatisfy(state -> assertThat(state).isEqualTo("OFF"));
            assertThat(again.get("/api/journal"))
                    .contains("Restored from a backup of", "1 erased since are erased again");
            assertThat(school.letters("@"))
                    .as("nobody is written to because of it")
                    .isEqualTo(letters);
        } finally {
            restored.close();
        }
    }

    private static String somebody(SignedIn owner) throws Exception {
        var person = "kept-" + UUID.randomUUID() + "@post.example";
        act(
                owner,
                "{\"kind\": \"GIVE\", \"person\": \"%s\", \"to\": [\"course/queen-rearing\"], \"length\": \"P2M\", \"reason\": \"prize\"}"
                        .formatted(person));
        return person;
    }

    /** A course, from which something follows. */
    private void buys() throws Exception {
        for (var what : List.of("placed", "paid")) {
            var id = UUID.randomUUID().toString();
            school.report(
                    Part.SERVER, id, """
                    {"specversion": "1.0", "id": "%s", "source": "https://shop.example", "type": "yoru.order.%s", "subject": "kept-buyer@post.example", "time": "%s",
                     "data": {"order": "K-1"%s}}""".formatted(id, what, Instant.now(), what.equals("placed") ? ORDERED : ""));
        }
    }

    private static void act(SignedIn owner, String act) throws Exception {
        owner.post("/api/desk/acts", "{\"key\": \"%s\", \"act\": %s}".formatted(UUID.randomUUID(), act));
    }

    private static String people(SignedIn owner) throws Exception {
        return owner.get("/api/people?q=kept-");
    }

    /** What follow-ups had done by a time, and that each was done once, but for one person. */
    private static List<String> runs(School of, String but, Instant at) {
        return of.rows(
                Part.SERVER,
                "select concat_ws(' ', subject, followup, occasion, stretch, step, state, count(*)) from followup_run r join followup_step s on s.run_id = r.id where subject <> ? and due_at <= ?::timestamptz group by subject, followup, occasion, stretch, step, number, state",
                but,
                at.toString());
    }

    /** Who has what, but for people erased, who are called otherwise each time. */
    private static List<String> access(SignedIn owner, Instant at) throws Exception {
        return owner.get("/api/exports/access.csv?at=" + at)
                .lines()
                .filter(row -> !row.startsWith("erased-"))
                .sorted()
                .toList();
    }
}
