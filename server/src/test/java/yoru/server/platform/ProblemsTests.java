package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.orm.jpa.JpaSystemException;

/** RFC 9110, 15.6.4 and 10.2.3: who cannot serve says when to come again. */
class ProblemsTests {

    private final Problems problems = new Problems();

    @Test
    void whileTheDatabaseIsAwayOneIsAskedToComeAgainAndPromisedNothing() {
        assertAsksToComeAgain(problems.on(new DataAccessResourceFailureException("no connection")));
        // SQLSTATE 57P01, admin_shutdown: PostgreSQL 15, appendix A
        assertAsksToComeAgain(problems.on(
                new JpaSystemException(new RuntimeException(new SQLException("terminating connection", "57P01")))));
    }

    @Test
    void aFaultOfOurOwnPromisesNothingEither() {
        var answer = problems.on(new IllegalStateException("a fault"));
        assertThat(answer.getStatusCode().value()).isEqualTo(500);
        assertThat(answer.getHeaders().get(HttpHeaders.RETRY_AFTER)).isNull();
        assertThat(detail(answer)).doesNotContain("Nothing was changed");
    }

    private static void assertAsksToComeAgain(ResponseEntity<ProblemDetail> answer) {
        assertThat(answer.getStatusCode().value()).isEqualTo(503);
        assertThat(answer.getHeaders().getFirst(HttpHeaders.RETRY_AFTER)).matches("\\d+");
        assertThat(detail(answer)).doesNotContain("Nothing was changed").contains("again");
    }

    private static String detail(ResponseEntity<ProblemDetail> answer) {
        var body = answer.getBody();
        return body == null ? "" : String.valueOf(body.getDetail());
    }
}
