package yoru.server.deliveries;

import io.github.resilience4j.circuitbreaker.CircuitBreaker;
import io.github.resilience4j.circuitbreaker.CircuitBreakerConfig;
import io.github.resilience4j.ratelimiter.RateLimiter;
import io.github.resilience4j.ratelimiter.RateLimiterConfig;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicReference;
import java.util.random.RandomGenerator;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.TroubleException;

/**
 * Stands before one system, in one server: not more at once than it should bear, not faster than its limit, not at all
 * while it asks for patience or fails at almost everything. Nobody waits at the gate but for a moment, where it goes quickly;
 * one is told when to come again.
 */
final class Gate {

    private static final Duration FULL = Duration.ofMillis(200);
    /** A system that answers within this has a place free at once: coming again costs more than waiting for it. */
    private static final Duration QUICK = Duration.ofMillis(50);
    /** How long one waits for a place of such a system. */
    private static final Duration PATIENCE = Duration.ofMillis(100);

    private final CircuitBreaker breaker;
    private final Optional<RateLimiter> limiter;
    private final Semaphore places;
    private final Duration rest;
    private final Clock clock;
    private final RandomGenerator random;
    private final AtomicReference<Instant> notBefore = new AtomicReference<>(Instant.MIN);
    /** Whether the last answer came soon. */
    private volatile boolean isQuick;
    /** Who was given a turn later on, by person. */
    private final Map<Long, Instant> turns = new ConcurrentHashMap<>();

    /** @param perSecond the limit; 0 = none */
    Gate(String connection, int perSecond, YoruSettings.Delivery settings, Clock clock, RandomGenerator random) {
        this.rest = settings.restAfterFailures();
        this.clock = clock;
        this.random = random;
        this.places = new Semaphore(settings.atOnce());
        this.breaker = CircuitBreaker.of(
                connection,
                CircuitBreakerConfig.custom()
                        .slidingWindowSize(20)
                        .minimumNumberOfCalls(10)
                        .failureRateThreshold(80)
                        .permittedNumberOfCallsInHalfOpenState(1)
                        .waitDurationInOpenState(rest)
                        .build());
        this.limiter = perSecond == 0
                ? Optional.empty()
                : Optional.of(RateLimiter.of(
                        connection,
                        RateLimiterConfig.custom()
                                .limitForPeriod(1)
                                .limitRefreshPeriod(Duration.ofNanos(1_000_000_000L / perSecond))
                                .timeoutDuration(Duration.ofDays(1))
                                .build()));
    }

    /** What one is told who wants to enter. */
    sealed interface Entrance permits ComeAgain, Permit {}

    record ComeAgain(Duration in) implements Entrance {}

    Entrance enter(long person) {
        var closed = closed();
        if (closed.isPresent()) {
            return new ComeAgain(closed.get());
        }
        if (!hasPlace()) {
            return new ComeAgain(varied(FULL));
        }
        var wait = hasTurn(person, clock.instant());
        if (wait.isEmpty() && !breaker.tryAcquirePermission()) {
            wait = Optional.of(varied(rest));
        }
        if (wait.isPresent()) {
            places.release();
            return new ComeAgain(wait.get());
        }
        return new Permit();
    }

    private boolean hasPlace() {
        try {
            return isQuick ? places.tryAcquire(PATIENCE.toMillis(), TimeUnit.MILLISECONDS) : places.tryAcquire();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    /** A place inside, given back once, whatever happens and however often it is said. */
    final class Permit implements Entrance, AutoCloseable {

        private final AtomicBoolean given = new AtomicBoolean(true);

        private Permit() {}

        void done(Duration took) {
            giveBack(() -> {
                isQuick = took.compareTo(QUICK) < 0;
                breaker.onSuccess(took.toNanos(), TimeUnit.NANOSECONDS);
            });
        }

        void failed(Duration took, TroubleException trouble) {
            trouble.retryAfter()
                    .map(asked -> clock.instant().plus(asked))
                    .ifPresent(until ->
                            notBefore.accumulateAndGet(until, (one, other) -> one.isAfter(other) ? one : other));
            giveBack(() -> {
                isQuick = false;
                if (trouble.trouble().isOfTheSystem()) {
                    breaker.onError(took.toNanos(), TimeUnit.NANOSECONDS, trouble);
                } else {
                    breaker.onSuccess(took.toNanos(), TimeUnit.NANOSECONDS);
                }
            });
        }

        /** Where nothing was said of the system until now, nothing is learnt about it. */
        @Override
        public void close() {
            giveBack(breaker::releasePermission);
        }

        private void giveBack(Runnable learnt) {
            if (given.compareAndSet(true, false)) {
                places.release();
                learnt.run();
            }
        }
    }

    /** How long to stay away, if it can be told without entering. */
    Optional<Duration> closed() {
        var now = clock.instant();
        var later = notBefore.get();
        if (now.isBefore(later)) {
            return Optional.of(varied(Duration.between(now, later)));
        }
        return places.availablePermits() == 0 && !isQuick ? Optional.of(varied(FULL)) : Optional.empty();
    }

    private Optional<Duration> hasTurn(long person, Instant now) {
        if (limiter.isEmpty()) {
            return Optional.empty();
        }
        var turn = turns.remove(person);
        if (turn != null && !now.isBefore(turn)) {
            return Optional.empty();
        }
        long wait = limiter.get().reservePermission();
        if (wait <= 0) {
            return Optional.empty();
        }
        turns.put(person, now.plusNanos(wait));
        return Optional.of(Duration.ofNanos(wait));
    }

    /** Whether the system is left alone for a while. */
    boolean isShut() {
        return breaker.getState() == CircuitBreaker.State.OPEN
                || clock.instant().isBefore(notBefore.get());
    }

    /** Lets everything in again at once: somebody says that the system is well. */
    void open() {
        breaker.reset();
        notBefore.set(Instant.MIN);
    }

    private Duration varied(Duration wait) {
        return wait.plusMillis((long) (random.nextDouble() * Math.max(50, wait.toMillis() / 5)));
    }
}
