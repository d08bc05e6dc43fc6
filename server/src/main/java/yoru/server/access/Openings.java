package yoru.server.access;

import java.time.Instant;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Counts windows of access. */
@Service
public class Openings {

    private final OpeningTable table;
    private final StandingTable standings;

    Openings(OpeningTable table, StandingTable standings) {
        this.table = table;
        this.standings = standings;
    }

    /** Whether somebody has anything open, as the systems are told. */
    @Transactional(readOnly = true)
    public boolean isAnythingOpen(long person) {
        return standings.existsByPersonId(person);
    }

    /** How many windows began and ended in [from, to). */
    public record Count(long opened, long ended) {}

    @Transactional(readOnly = true)
    public Count between(Instant from, Instant to) {
        return new Count(table.countOpened(from, to), table.countEnded(from, to));
    }

    /** How many people have something that ends in [from, to). */
    @Transactional(readOnly = true)
    public long peopleEnding(Instant from, Instant to) {
        return table.countPeopleEnding(from, to);
    }
}
