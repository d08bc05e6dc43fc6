package yoru.server.platform;

import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.TimeGauge;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * The time by PostgreSQL's clock, counted on by what this machine measures between two looks at it. All servers on a
 * database so agree what is due and who still lives, whatever becomes of a machine's own clock.
 */
@Component
class SharedClock extends Clock {

    /** A machine's clock further off than this is told of. */
    private static final Duration WORTH_TELLING = Duration.ofSeconds(30);

    /** A machine's clock that has gone on by so much more than its counter was set, or the machine slept. */
    private static final Duration LEAP = Duration.ofMillis(500);

    private static final Logger LOG = LoggerFactory.getLogger(SharedClock.class);

    private final DataSource database;
    private final InstantSource machine;
    private volatile Reading reading;
    private boolean told;

    @Autowired
    SharedClock(DataSource database, ObjectProvider<MeterRegistry> meters) throws SQLException {
        this(database, meters, InstantSource.system());
    }

    SharedClock(DataSource database, ObjectProvider<MeterRegistry> meters, InstantSource machine) throws SQLException {
        this.database = database;
        this.machine = machine;
        this.reading = read();
        meters.ifAvailable(registry -> TimeGauge.builder(
                        "yoru.clock.off",
                        this,
                        TimeUnit.MILLISECONDS,
                        clock -> clock.off().toMillis())
                .description("by how much this machine's clock is ahead of the database's")
                .register(registry));
    }

    /** What the database's clock said, and what this machine's counter and its own clock said then. */
    private record Reading(Instant time, long nanos, Instant machine) {

        Duration since() {
            return Duration.ofNanos(System.nanoTime() - nanos);
        }
    }

    /** The counter of a machine that sleeps, as virtual ones do when they are moved, stands still; its clock is set afterwards. */
    @Scheduled(initialDelay = 1, fixedDelay = 1, timeUnit = TimeUnit.SECONDS)
    void watch() {
        var last = reading;
        var gone = Duration.between(last.machine, machine.instant());
        if (gone.minus(last.since()).abs().compareTo(LEAP) > 0) {
            look();
        }
    }

    @Scheduled(initialDelay = 1, fixedDelay = 20, timeUnit = TimeUnit.SECONDS)
    void look() {
        try {
            reading = read();
        } catch (SQLException e) {
            LOG.debug("The database's clock cannot be read; counting on.", e);
            return;
        }
        boolean off = off().abs().compareTo(WORTH_TELLING) > 0;
        if (off && !told) {
            LOG.warn("This machine's clock is {} off the database's, by which Yoru goes. Set it right.", off());
        }
        told = off;
    }

    private Reading read() throws SQLException {
        try (var connection = database.getConnection();
                var statement = connection.createStatement()) {
            long asked = System.nanoTime();
            try (var row = statement.executeQuery("select extract(epoch from clock_timestamp()) * 1000000")) {
                row.next();
                long micros = row.getBigDecimal(1).longValue();
                long between = asked + (System.nanoTime() - asked) / 2;
                return new Reading(Instant.EPOCH.plus(Duration.ofNanos(micros * 1000)), between, machine.instant());
            }
        }
    }

    private Duration off() {
        return Duration.between(instant(), machine.instant());
    }

    @Override
    public Instant instant() {
        var last = reading;
        return last.time.plus(last.since());
    }

    @Override
    public ZoneId getZone() {
        return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
        throw new UnsupportedOperationException("instants only");
    }
}
