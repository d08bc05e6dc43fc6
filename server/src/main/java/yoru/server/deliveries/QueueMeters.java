package yoru.server.deliveries;

import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.MultiGauge;
import io.micrometer.core.instrument.MultiGauge.Row;
import io.micrometer.core.instrument.Tags;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.concurrent.TimeUnit;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** How much waits for each system, and how long the oldest of it has; counted every few seconds by every server. */
@Component
@EnableScheduling
class QueueMeters {

    private final DeliveryFigures figures;
    private final MultiGauge waiting;
    private final MultiGauge givenUp;
    private final MultiGauge oldest;
    private final Clock clock;

    QueueMeters(DeliveryFigures figures, MeterRegistry registry, Clock clock) {
        this.figures = figures;
        this.clock = clock;
        this.waiting = MultiGauge.builder("yoru.delivery.waiting")
                .description("What a system still has to be told")
                .register(registry);
        this.givenUp = MultiGauge.builder("yoru.delivery.given.up")
                .description("What a system could not be told within the time allowed")
                .register(registry);
        this.oldest = MultiGauge.builder("yoru.delivery.oldest")
                .description("For how long the oldest of what waits has been wanted")
                .baseUnit("seconds")
                .register(registry);
    }

    @Scheduled(initialDelay = 5, fixedDelay = 15, timeUnit = TimeUnit.SECONDS)
    void count() {
        var many = new ArrayList<Row<?>>();
        var given = new ArrayList<Row<?>>();
        var age = new ArrayList<Row<?>>();
        for (var row : figures.tally()) {
            var system = Tags.of("system", row.connection());
            if (row.state() == DeliveryState.WAITING) {
                many.add(Row.of(system, row.many()));
                age.add(Row.of(
                        system, Duration.between(row.oldest(), clock.instant()).toSeconds()));
            } else if (row.state() == DeliveryState.GIVEN_UP) {
                given.add(Row.of(system, row.many()));
            }
        }
        waiting.register(many, true);
        givenUp.register(given, true);
        oldest.register(age, true);
    }
}
