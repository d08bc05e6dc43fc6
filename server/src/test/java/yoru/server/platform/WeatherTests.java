package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.ConnectException;
import java.sql.SQLException;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.DataIntegrityViolationException;

/** What comes and goes by itself is told apart from what is wrong here. */
class WeatherTests {

    @Test
    void aDatabaseThatIsAwayOrFullIsWeather() {
        for (var state : new String[] {"08006", "53100", "57P01"}) {
            assertThat(Weather.isDatabaseAway(
                            new DataAccessResourceFailureException("x", new SQLException("x", state))))
                    .as(state)
                    .isTrue();
        }
        assertThat(Weather.isDatabaseAway(new IllegalStateException(new SQLException("Connection is closed"))))
                .as("the pool's own words have no state")
                .isTrue();
        assertThat(Weather.isBehind(new IllegalStateException(new ConnectException())))
                .isTrue();
        assertThat(Weather.isDatabaseAway(new IllegalStateException(new ConnectException())))
                .isFalse();
    }

    @Test
    void aMistakeIsNone() {
        assertThat(Weather.isBehind(
                        new DataIntegrityViolationException("x", new SQLException("duplicate key", "23505"))))
                .isFalse();
        assertThat(Weather.isBehind(new NullPointerException())).isFalse();
    }
}
