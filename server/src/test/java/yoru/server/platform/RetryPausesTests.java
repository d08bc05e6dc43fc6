package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RetryPausesTests {

    private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

    private final RetryPauses pauses =
            new RetryPauses(Duration.ofSeconds(1), Duration.ofMinutes(15), Duration.ofHours(24));

    @Test
    void pausesDoubleUpToALongestAndVaryByAFifth() {
        for (int failures = 1; failures <= 60; failures++) {
            double expected = Math.min(Math.pow(2, failures - 1), 900);
            var random = new Random(failures);
            for (int n = 0; n < 50; n++) {
                var pause = Duration.between(
                        NOW,
                        pauses.next(failures, NOW, NOW, Optional.empty(), random)
                                .orElseThrow());
                assertThat(pause.toMillis() / 1000.0).isBetween(expected * 0.799, expected * 1.201);
            }
        }
    }

    @Test
    void whatTheSystemAskedForIsNeverShortened() {
        var next = pauses.next(1, NOW, NOW, Optional.of(Duration.ofHours(2)), new Random(1));
        assertThat(next).hasValue(NOW.plus(Duration.ofHours(2)));
    }

    @Test
    void afterADayItIsGivenUp() {
        var since = NOW.minus(Duration.ofHours(24));
        assertThat(pauses.next(90, since.plusSeconds(1), NOW, Optional.empty(), new Random(1)))
                .isPresent();
        assertThat(pauses.next(90, since, NOW, Optional.empty(), new Random(1))).isEmpty();
    }
}
