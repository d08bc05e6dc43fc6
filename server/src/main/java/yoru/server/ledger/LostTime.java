package yoru.server.ledger;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import yoru.core.followup.Followups;

/**
 * What a ledger that was restored cannot know: between the backup and the restore the server that was lost has gone on, and
 * what became due then by itself it may have done.
 */
@Service
public class LostTime {

    private static final int REVISIONS = 1_000_000;

    private final JdbcClient jdbc;

    /** Read once: a database is restored only while no server runs on it. */
    private volatile @Nullable List<Lost> lost;

    LostTime(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param lastFact the last that the backup has */
    private record Lost(Instant from, Instant to, long lastFact) {

        boolean has(Instant at) {
            return at.isAfter(from) && !at.isAfter(to);
        }
    }

    /**
     * Whether what became due for somebody at a time may have been done by a server of which nothing else is known. Not where
     * something was reported of them since: what follows from that nobody else can have done.
     */
    public boolean mayHaveBeenDone(String subject, Instant due) {
        return lost().stream().anyMatch(time -> time.has(due) && !isAnythingNew(subject, time.lastFact));
    }

    /**
     * From where revisions are counted on, so that systems, which keep the newest that they were told, do not take what is
     * said now for older than what the lost server said. As after-restore.sql has it.
     */
    public int revisionsBefore() {
        return lost().size() * REVISIONS;
    }

    private List<Lost> lost() {
        var known = lost;
        if (known == null) {
            known = jdbc.sql("select backup_at, at, last_fact from restored")
                    .query((row, number) -> new Lost(
                            row.getTimestamp("backup_at").toInstant(),
                            row.getTimestamp("at").toInstant(),
                            row.getLong("last_fact")))
                    .list();
            lost = known;
        }
        return known;
    }

    private boolean isAnythingNew(String subject, long last) {
        return jdbc.sql(
                        "select exists (select 1 from fact where subject = :subject and seq > :last and source <> :own)")
                .param("subject", subject)
                .param("last", last)
                .param("own", Followups.SOURCE)
                .query(Boolean.class)
                .single();
    }
}
