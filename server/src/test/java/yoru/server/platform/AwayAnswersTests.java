package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jakarta.servlet.ServletException;
import jakarta.servlet.ServletOutputStream;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import org.apache.coyote.CloseNowException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.FieldSource;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.mock.web.MockHttpServletResponse;

/** Whatever breaks because the database does, wherever on the way, is no error of the server's own. */
class AwayAnswersTests {

    /** What each of them looks like that has been met. */
    static final Exception[] AWAY = {
        new IllegalStateException("Session/EntityManager is closed"),
        new CannotAcquireLockException("two at once"),
        new RuntimeException(new SQLException("Connection is closed")),
        new RuntimeException(new SQLException("This statement has been closed.", "55000")),
        new ServletException("Request processing failed", new RuntimeException(new SQLException("away", "57P01"))),
    };

    private final MockHttpServletResponse response = new MockHttpServletResponse();

    @ParameterizedTest
    @FieldSource("AWAY")
    void isAnsweredThoughAnAnswerWasBegun(Exception away) throws Exception {
        answer(away, false);

        assertThat(response.getStatus()).isEqualTo(503);
        assertThat(response.getHeader("Retry-After")).isEqualTo("15");
        assertThat(response.getContentAsString())
                .startsWith("{\"type\":\"about:blank\",\"title\":\"The database cannot be reached\"");
    }

    @Test
    void breaksOffAnAnswerThatIsOnItsWay() {
        assertThatThrownBy(() -> answer(AWAY[0], true)).isInstanceOf(CloseNowException.class);
    }

    @Test
    void hidesNothingElse() {
        var fault = new IllegalStateException("a fault of ours");
        assertThatThrownBy(() -> answer(fault, false)).isSameAs(fault);
    }

    private void answer(Exception thrown, boolean onItsWay) throws Exception {
        new AwayAnswers().doFilter(new MockHttpServletRequest(), response, (_, begun) -> {
            ServletOutputStream body = begun.getOutputStream();
            body.write("{\"half\": ".getBytes(StandardCharsets.UTF_8));
            if (onItsWay) {
                begun.flushBuffer();
            }
            switch (thrown) {
                case ServletException servlets -> throw servlets;
                case RuntimeException other -> throw other;
                default -> throw new AssertionError(thrown);
            }
        });
    }
}
