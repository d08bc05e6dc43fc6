package yoru.server.platform;

import java.time.Duration;
import java.time.Instant;
import org.springframework.http.HttpStatus;

/** Somebody asks too often; the answer says when they may ask again. */
public final class TooManyException extends ProblemException {

    private static final long serialVersionUID = 1;

    private final Duration after;

    /** @param why a sentence */
    public TooManyException(String why, Duration after) {
        super(HttpStatus.TOO_MANY_REQUESTS, "Too many tries", why + " Try again " + inWords(after) + ".");
        this.after = after;
    }

    public static TooManyException until(String why, Instant then, Instant now) {
        return new TooManyException(why, Duration.between(now, then));
    }

    private static String inWords(Duration after) {
        long seconds = Math.max(1, after.toSeconds());
        return seconds < 90 ? "in " + seconds + " seconds" : "in " + (seconds + 59) / 60 + " minutes";
    }

    /** In whole seconds, as the header {@code Retry-After} has them (RFC 9110, 10.2.3). */
    public String retryAfter() {
        return String.valueOf(Math.max(1, after.toSeconds()));
    }
}
