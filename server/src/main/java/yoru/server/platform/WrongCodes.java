package yoru.server.platform;

import java.time.Clock;
import java.time.Duration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Counts codes that do not exist, by where they come from. */
@Service
class WrongCodes {

    private static final int MOST = 20;
    private static final Duration COUNT_FOR = Duration.ofMinutes(15);

    private final WrongCodeTable table;
    private final Clock clock;

    WrongCodes(WrongCodeTable table, Clock clock) {
        this.table = table;
        this.clock = clock;
    }

    @Transactional
    public void count(String origin) {
        var now = clock.instant();
        table.forget(now.minus(COUNT_FOR)); // where people come from is kept no longer than it is of use
        table.failed(origin, now, now.minus(COUNT_FOR));
    }

    /** Whether too many came from there of late. */
    @Transactional(readOnly = true)
    public boolean areTooMany(String origin) {
        return table.isStopped(origin, MOST, clock.instant().minus(COUNT_FOR)) > 0;
    }
}
