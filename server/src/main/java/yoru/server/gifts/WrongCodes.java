package yoru.server.gifts;

import java.time.Clock;
import java.time.Duration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Counts codes that do not exist, by where they come from. */
@Service
class WrongCodes {

    private static final int MOST = 20;
    private static final Duration COUNT_FOR = Duration.ofMinutes(15);

    private final GiftCodes codes;
    private final Clock clock;

    WrongCodes(GiftCodes codes, Clock clock) {
        this.codes = codes;
        this.clock = clock;
    }

    @Transactional
    public void count(String origin) {
        var now = clock.instant();
        codes.failed(origin, now, now.minus(COUNT_FOR));
    }

    /** Whether too many came from there of late. */
    @Transactional(readOnly = true)
    public boolean areTooMany(String origin) {
        return codes.isStopped(origin, MOST, clock.instant().minus(COUNT_FOR)) > 0;
    }
}
