package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import javax.sql.DataSource;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.ObjectProvider;

/** Mockito: a database's clock that stands elsewhere than this machine's, is set, and cannot be reached. */
class SharedClockTests {

    private static final Duration SOON = Duration.ofSeconds(20);

    private final DataSource database = mock();
    private final ResultSet row = mock();
    private Instant here = Instant.parse("2026-03-01T12:00:00Z");
    private final long began = System.nanoTime();
    private final InstantSource machine = () -> here.plusNanos(System.nanoTime() - began);

    @BeforeEach
    void answers() throws SQLException {
        Connection connection = mock();
        Statement statement = mock();
        when(database.getConnection()).thenReturn(connection);
        when(connection.createStatement()).thenReturn(statement);
        when(statement.executeQuery(any())).thenReturn(row);
    }

    private void itIs(Instant time) throws SQLException {
        when(row.getBigDecimal(1)).thenReturn(BigDecimal.valueOf(time.toEpochMilli() * 1000));
    }

    private SharedClock clock() throws SQLException {
        ObjectProvider<io.micrometer.core.instrument.MeterRegistry> none = mock();
        return new SharedClock(database, none, machine);
    }

    @Test
    void itGoesByTheDatabasesClockAndNotByThisMachines() throws SQLException {
        var there = Instant.parse("2020-02-29T12:00:00Z");
        itIs(there);
        assertThat(clock().instant()).isBetween(there, there.plus(SOON));
    }

    @Test
    void itCountsOnWhileTheDatabaseIsAwayAndFollowsWhenItIsBack() throws SQLException {
        var there = Instant.parse("2020-02-29T12:00:00Z");
        itIs(there);
        var clock = clock();
        var before = clock.instant();
        when(row.getBigDecimal(1)).thenThrow(new SQLException("away", "08006"));
        clock.look();
        assertThat(clock.instant()).isBetween(before, before.plus(SOON));

        org.mockito.Mockito.reset(row);
        var later = there.plus(Duration.ofHours(1));
        itIs(later);
        clock.look();
        assertThat(clock.instant()).isBetween(later, later.plus(SOON));
    }

    @Test
    void whatAMachineHasSleptIsNoticedAtOnceAndNothingElseIsAskedAnew() throws SQLException {
        var there = Instant.parse("2020-02-29T12:00:00Z");
        itIs(there);
        var clock = clock();
        clock.watch();
        verify(database, times(1)).getConnection();

        var slept = Duration.ofMinutes(1);
        here = here.plus(slept);
        itIs(there.plus(slept));
        clock.watch();
        assertThat(clock.instant())
                .isBetween(there.plus(slept), there.plus(slept).plus(SOON));
        clock.watch();
        verify(database, times(2)).getConnection();
    }
}
