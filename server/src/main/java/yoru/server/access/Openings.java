package yoru.server.access;

import java.time.Instant;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Counts windows of access. */
@Service
public class Openings {

    private final OpeningTable table;

    Openings(OpeningTable table) {
        this.table = table;
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
