package yoru.server.accounts;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.platform.RetryPauses;
import yoru.server.platform.Sha256;
import yoru.server.platform.TooManyException;

/**
 * Makes guessing slow without locking anybody out (OWASP ASVS 5.0, 6.3.1): whoever fails waits longer and longer, counted
 * by address and place together; where failures for one address come from everywhere, all places wait a little but for the
 * browsers from which somebody has signed in with it before (OWASP, "Device Cookies"). Counted alike for addresses that
 * nobody has, in the database, so that all servers count together.
 */
@Service
class SignInPauses {

    private static final Duration COUNTED = Duration.ofMinutes(30);
    private static final Duration LONGEST = Duration.ofMinutes(15);

    /** What is counted together, how many failures of it cost nothing, and how long the pause is after that. */
    private enum Sort {
        BROWSER(5, Duration.ofSeconds(10)),
        PLACE(5, Duration.ofSeconds(10)),
        EVERYWHERE(30, Duration.ofSeconds(20)),
        ORIGIN(40, Duration.ofSeconds(10)),
        /** Letters to somebody because anybody has asked for them. */
        LETTER(3, Duration.ofMinutes(5));

        private final int free;
        private final Duration first;

        Sort(int free, Duration first) {
            this.free = free;
            this.first = first;
        }

        /** How long to wait after so many failures: doubling, up to {@link #LONGEST}. */
        Duration pause(int failures) {
            return failures < free ? Duration.ZERO : RetryPauses.doubled(first, LONGEST, failures - free);
        }
    }

    /**
     * Where somebody signs in from.
     *
     * @param place where that is
     * @param browser by which a browser is known that this account has signed in from before
     */
    record Asker(String place, @Nullable String browser) {}

    private record Counted(Sort sort, String about) {

        static Counted of(Sort sort, String... what) {
            return new Counted(sort, Sha256.of(sort + "|" + String.join("|", what)));
        }
    }

    private final FailedSignInTable table;
    private final Clock clock;

    SignInPauses(FailedSignInTable table, Clock clock) {
        this.table = table;
        this.clock = clock;
    }

    /** @throws TooManyException while it is too early for another try */
    @Transactional(readOnly = true)
    public void check(String email, Asker asker) {
        var now = clock.instant();
        counted(email, asker).stream()
                .flatMap(counted -> until(counted, now).stream())
                .filter(until -> until.isAfter(now))
                .max(Instant::compareTo)
                .ifPresent(until -> {
                    throw TooManyException.until("Signing in failed too often.", until, now);
                });
    }

    private Optional<Instant> until(Counted counted, Instant now) {
        return table.findById(counted.about)
                .filter(row -> row.lastAt.isAfter(now.minus(COUNTED)))
                .map(row -> row.lastAt.plus(counted.sort.pause(row.failures)));
    }

    @Transactional
    public void failed(String email, Asker asker) {
        var now = clock.instant();
        counted(email, asker).forEach(counted -> table.count(counted.about, now, now.minus(COUNTED)));
    }

    /** What failed here before is forgotten; what failed elsewhere still counts there. */
    @Transactional
    public void succeeded(String email, Asker asker) {
        counted(email, asker).stream()
                .filter(counted -> counted.sort == Sort.BROWSER || counted.sort == Sort.PLACE)
                .forEach(counted -> table.deleteById(counted.about));
        table.forget(clock.instant().minus(COUNTED));
    }

    /**
     * Whether it is time for another letter to an address for which anybody may ask for one: a few at once, then fewer and
     * fewer. Counted alike for addresses that nobody has.
     */
    @Transactional
    public boolean takeALetter(String email) {
        var now = clock.instant();
        var counted = Counted.of(Sort.LETTER, email);
        if (until(counted, now).filter(it -> it.isAfter(now)).isPresent()) {
            return false;
        }
        table.count(counted.about, now, now.minus(COUNTED));
        return true;
    }

    private static List<Counted> counted(String email, Asker asker) {
        return asker.browser == null
                ? List.of(
                        Counted.of(Sort.PLACE, email, asker.place),
                        Counted.of(Sort.EVERYWHERE, email),
                        Counted.of(Sort.ORIGIN, asker.place))
                : List.of(Counted.of(Sort.BROWSER, email, asker.browser));
    }
}
