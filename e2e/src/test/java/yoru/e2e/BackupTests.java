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
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import yoru.e2e.School.Part;

/** What is backed up while everything runs is there again after it was brought back, and nothing happens because of that. */
class BackupTests {

    private static final Duration LONG = Duration.ofMinutes(2);
    private static final String ORDERED =
            ", \"channel\": \"shop\", \"currency\": \"EUR\", \"lines\": [{\"line\": \"1\", \"product\": \"%s\", \"amount\": \"64.00\"}]";
    private static final String LATER = "\"subject\":\"A day later\"";

    private static final String PUBLISH = """
            {"base": %s, "note": "a trial", "despite": "a trial", "changes": [], "things": [{"thing": "followup/a-day-later", "to": %s}]%s}""";

    private static final String CLASSROOM = "/api/systems/practice-classroom";
    private static final String MAILBOX = "/api/systems/practice-mailbox";

    private final School school = School.running();

    @Test
    void theSameIsThereAgainNobodyErasedSinceIsAndNobodyIsToldAnything() throws Exception {
        var owner = SignedIn.to(school);
        var kept = somebody(owner);
        var erased = somebody(owner);
        buys("kept-buyer@post.example", "FIRST", Instant.now());
        var waiting = "waits-" + UUID.randomUUID() + "@post.example";
        var due = waitsForALetter(owner, waiting);
        var ahead = "ahead-" + UUID.randomUUID() + "@post.example";
        buys(ahead, "FIRST", due); // by a shop whose clock is ahead
        await().atMost(LONG)
                .until(() ->
                        school.quiet() && !runs(school, erased, Instant.now()).isEmpty());
        assertThat(isEnrolled(kept)).isTrue();
        var file = Path.of("target", "school-" + UUID.randomUUID() + ".backup").toAbsolutePath();
        var runs = runs(school, erased, Instant.now());
        assertThat(school.command(school.database(Part.SERVER), "backup", file.toString()))
                .contains("Everything that");
        assertThat(Instant.now()).as("the letter is not in the backup").isBefore(due);
        assertThat(Files.readString(file, java.nio.charset.StandardCharsets.ISO_8859_1))
                .as("nobody reads it without the passphrase")
                .doesNotContain(kept, "PGDMP", "yoru-backup");
        // what the lost server has said since: newer than all that is in the backup
        school.change(
                Part.CLASSROOM,
                "update enrolment set state = 'closed', revision = revision + 3 where learner = '" + kept + "'");
        act(owner, "{\"kind\": \"ERASE\", \"person\": \"%s\"}".formatted(erased));
        await().atMost(LONG).until(() -> !people(owner).contains(erased));
        await().atMost(LONG).until(() -> school.letters(waiting).contains(LATER));
        await().atMost(LONG)
                .until(() -> school.letters(ahead), it -> it.contains("is open for you") && it.contains("Welcome"));
        await().atMost(LONG).until(school::quiet);
        var at = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        var rulebook = owner.get("/api/mapping/rulebook");
        var access = access(owner, at);
        var letters = school.letters("@");
        var toAhead = school.letters(ahead);

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

            // what became due between the backup and now has been sent by the one that was lost
            again.post(MAILBOX + "/state", "{\"state\": \"ON\"}");
            await().atMost(LONG).until(() -> heldBack(restored, waiting), steps -> steps.size() == 1);
            await().atMost(LONG).until(restored::quiet);
            assertThat(school.letters("@")).as("nor once the mailbox is on").isEqualTo(letters);
            again.post("/api/followups/steps/" + heldBack(restored, waiting).getFirst() + "/again", "");
            await().atMost(LONG).until(() -> school.letters(waiting).split(LATER, -1).length - 1, times -> times == 2);

            // what it is told now is newer than that
            again.post(CLASSROOM + "/state", "{\"state\": \"ON\"}");
            again.post(CLASSROOM + "/check", "");
            var missing =
                    await().atMost(LONG).ignoreExceptions().until(() -> outOfStep(again, kept), Optional::isPresent);
            again.post(CLASSROOM + "/out-of-step/correct", "{\"ids\": [%d]}".formatted(missing.orElseThrow()));
            await().atMost(LONG).until(() -> isEnrolled(kept));
            await().atMost(LONG).until(() -> heldBack(restored, ahead).size() == 1 && restored.quiet());
            assertThat(school.letters(ahead)).isEqualTo(toAhead);
        } finally {
            restored.close();
            owner.post("/api/mapping/publish", PUBLISH.formatted(version(owner), "null", ""));
            putsRightWhatTheOtherSaid(owner);
        }
    }

    /** The classroom was told by the restored one to send people to its own address. */
    private static void putsRightWhatTheOtherSaid(SignedIn owner) throws Exception {
        owner.post(CLASSROOM + "/shown/look", "");
        owner.post(CLASSROOM + "/shown/again", "");
        await().atMost(LONG).ignoreExceptions().until(() -> {
            owner.post(CLASSROOM + "/shown/look", "");
            return !owner.get(CLASSROOM + "/shown").matches(".*(WAITING|\"differs\":true).*");
        });
    }

    private boolean isEnrolled(String person) {
        return school.count(
                        Part.CLASSROOM, "select count(*) from enrolment where learner = ? and state = 'open'", person)
                == 1;
    }

    private static Optional<Long> outOfStep(SignedIn owner, String person) throws Exception {
        return JsonMapper.shared()
                .readTree(owner.get(CLASSROOM + "/out-of-step?kind=MISSING"))
                .valueStream()
                .filter(one -> one.toString().contains(person))
                .map(one -> one.path("id").asLong())
                .findFirst();
    }

    private static String version(SignedIn owner) throws Exception {
        return JsonMapper.shared()
                .readTree(owner.get("/api/mapping"))
                .path("version")
                .asString();
    }

    /** Somebody to whom a letter goes by itself a day after they have paid, which is soon. @return when */
    private Instant waitsForALetter(SignedIn owner, String person) throws Exception {
        var due = Instant.now().plusSeconds(90); // the backup comes first, also on a busy machine
        var paid = due.minus(Duration.ofDays(1));
        owner.post("/api/mapping/publish", PUBLISH.formatted(version(owner), """
                        {"when": {"paid": {"products": ["LIVING"]}},
                         "steps": [{"wait": "P1D"}, {"write": {"subject": "A day later", "text": "x"}}]}""", """
                        , "past": {"counts": false, "followups": [{"followup": "a-day-later", "since": "%s", "letters": true}]}""".formatted(paid)));
        buys(person, "LIVING", paid);
        await().atMost(LONG)
                .until(() -> school.count(
                                Part.SERVER,
                                "select count(*) from followup_run where subject = ? and waits_until is not null",
                                person)
                        == 1);
        return due;
    }

    /** Steps that wait for somebody to say that they are to be done. */
    private static List<String> heldBack(School school, String person) {
        return school.rows(
                Part.SERVER,
                "select s.id::text from followup_run r join followup_step s on s.run_id = r.id where r.subject = ? and s.failing and s.note like '%kept back after a restore%'",
                person);
    }

    private static String somebody(SignedIn owner) throws Exception {
        var person = "kept-" + UUID.randomUUID() + "@post.example";
        act(
                owner,
                "{\"kind\": \"GIVE\", \"person\": \"%s\", \"to\": [\"course/queen-rearing\"], \"length\": \"P2M\", \"reason\": \"prize\"}"
                        .formatted(person));
        return person;
    }

    /** From which something follows. */
    private void buys(String person, String product, Instant at) throws Exception {
        var order = "K-" + UUID.randomUUID();
        for (var what : List.of("placed", "paid")) {
            var id = UUID.randomUUID().toString();
            school.report(Part.SERVER, id, """
                    {"specversion": "1.0", "id": "%s", "source": "https://shop.example", "type": "yoru.order.%s", "subject": "%s", "time": "%s",
                     "data": {"order": "%s"%s}}""".formatted(
                            id, what, person, at, order, what.equals("placed") ? ORDERED.formatted(product) : ""));
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
                "select concat_ws(' ', subject, followup, occasion, stretch, step, state, count(*)) from followup_run r join followup_step s on s.run_id = r.id where subject <> ? and due_at <= ?::timestamptz and state not in ('DUE', 'BEGUN', 'GOING') group by subject, followup, occasion, stretch, step, number, state",
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
