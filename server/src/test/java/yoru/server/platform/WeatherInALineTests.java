package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.test.system.CapturedOutput;
import org.springframework.boot.test.system.OutputCaptureExtension;

/** A database that is away fills no log with traces, and hides no fault of another kind. */
@ExtendWith(OutputCaptureExtension.class)
class WeatherInALineTests {

    private static final Logger OF_A_LIBRARY = LoggerFactory.getLogger("some.library");
    private static final Exception AWAY =
            new IllegalStateException("Failed to rollback.", new SQLException("Connection is closed"));

    private final WeatherInALine filter = new WeatherInALine();

    @AfterEach
    void takeOut() {
        filter.destroy();
    }

    @Test
    void isALineAndAFaultHasItsTrace(CapturedOutput output) {
        OF_A_LIBRARY.error("Will keep running.", AWAY);
        OF_A_LIBRARY.warn("Of {}: {}", "a connection", "closed", AWAY);
        OF_A_LIBRARY.trace("Nobody asked", AWAY);
        assertThat(output)
                .contains(
                        "some.library says: Will keep running. (java.lang.IllegalStateException: Failed to rollback.)",
                        "some.library says: Of {}: {}")
                .doesNotContain("\tat ", "Nobody asked");

        OF_A_LIBRARY.error("Will keep running.", new NullPointerException("a fault"));
        assertThat(output).contains("a fault", "\tat ");
    }
}
