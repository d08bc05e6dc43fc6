package yoru.server.deliveries;

import io.micrometer.core.instrument.Counter;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.Timer;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Counts what the systems were told, for whoever watches over the installation (docs/running.md). */
@Component
class Meters {

    private final MeterRegistry registry;

    Meters(MeterRegistry registry) {
        this.registry = registry;
    }

    /** @param lag since the state became wanted */
    void answered(String connection, Duration lag) {
        Timer.builder("yoru.delivery.lag")
                .description("From when a state became wanted to the system's answer")
                .tag("system", connection)
                .publishPercentiles(0.5, 0.99)
                .register(registry)
                .record(lag);
    }

    void failed(String connection) {
        Counter.builder("yoru.delivery.failures")
                .description("Tries that a system did not answer as asked")
                .tag("system", connection)
                .register(registry)
                .increment();
    }
}
