package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIf;
import tools.jackson.databind.json.JsonMapper;
import yoru.e2e.School.Part;

/** By PostgreSQL's own means, as docs/running.md says: what was until a moment is there again, and nothing after it. */
@EnabledIf("yoru.e2e.LongRun#is")
class PointInTimeTests {

    @Test
    void whatWasUntilAMomentIsThereAgain() throws Exception {
        var cluster = OwnCluster.archiving(School.freePort());
        var school = School.on(Path.of("src", "test", "resources", "before", "demo-35.dump"), Optional.of(cluster));
        school.start(Part.SERVER);
        cluster.backUp();
        var owner = SignedIn.to(school);
        var before = somebody(owner);
        var moment = Instant.parse(school.rows(Part.SERVER, """
                select to_char(clock_timestamp() at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')""").getFirst());
        var after = somebody(owner);
        var last = school.rows(Part.SERVER, "select pg_walfile_name(pg_switch_wal())")
                .getFirst();
        await().atMost(Duration.ofMinutes(1))
                .until(() -> school.count(
                                Part.SERVER, "select count(*) from pg_stat_archiver where last_archived_wal >= ?", last)
                        == 1);
        school.kill(Part.SERVER);
        cluster.stopAtOnce();

        var again = school.recoveredOn(cluster.recoveredTo(moment, School.freePort()), moment);
        again.start(Part.SERVER);
        var there = SignedIn.to(again);
        assertThat(there.get("/api/people?q=then-")).contains(before).doesNotContain(after);
        assertThat(JsonMapper.shared().readTree(there.get("/api/systems")).findValuesAsString("state"))
                .isNotEmpty()
                .containsOnly("OFF");
        assertThat(there.get("/api/journal")).contains("Restored from a backup of");
        again.kill(Part.SERVER);
    }

    private static String somebody(SignedIn owner) throws Exception {
        var person = "then-" + UUID.randomUUID() + "@post.example";
        owner.post("/api/desk/acts", """
                {"key": "%s", "act": {"kind": "GIVE", "person": "%s", "to": ["course/queen-rearing"], "length": "P2M", "reason": "prize"}}""".formatted(UUID.randomUUID(), person));
        return person;
    }
}
