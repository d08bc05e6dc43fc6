package yoru.server.platform;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.random.RandomGenerator;

/**
 * How long to wait before the next try: twice as long each time, up to a longest pause, each a little shorter or longer
 * so that a thousand deliveries do not come back all at once.
 *
 * @param giveUpAfter since the first failure
 */
public record RetryPauses(Duration first, Duration longest, Duration giveUpAfter) {

    private static final double JITTER = 0.2;

    /**
     * When to try again, or nothing when the time allowed is over.
     *
     * @param failures so far, this one included
     * @param asked what the system asked to wait (Retry-After, RFC 9110, 10.2.3); never shortened
     */
    public Optional<Instant> next(
            int failures, Instant failingSince, Instant now, Optional<Duration> asked, RandomGenerator random) {
        if (!now.isBefore(failingSince.plus(giveUpAfter))) {
            return Optional.empty();
        }
        long pause = doubled(first, longest, failures - 1).toMillis();
        long varied = (long) (pause * (1 + JITTER * (2 * random.nextDouble() - 1)));
        long wait = Math.max(varied, asked.map(Duration::toMillis).orElse(0L));
        return Optional.of(now.plusMillis(wait));
    }

    /** The first pause so many times doubled, up to the longest. */
    public static Duration doubled(Duration first, Duration longest, int times) {
        long doubled = first.toMillis() << Math.min(times, 30);
        return Duration.ofMillis(Math.min(doubled, longest.toMillis()));
    }
}
