package yoru.server.systems;

import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A system did not do what it was asked; the message says so in plain words. */
public final class TroubleException extends RuntimeException {

    private static final long serialVersionUID = 1;

    private final Trouble trouble;

    private final transient @Nullable Duration asked;

    public TroubleException(Trouble trouble, String words) {
        this(trouble, words, null);
    }

    /** @param asked how long the system asked to wait */
    public TroubleException(Trouble trouble, String words, @Nullable Duration asked) {
        super(words);
        this.trouble = trouble;
        this.asked = asked;
    }

    public Trouble trouble() {
        return trouble;
    }

    public String words() {
        return String.valueOf(getMessage());
    }

    /** How long it asked to wait (Retry-After, RFC 9110, 10.2.3). */
    public Optional<Duration> retryAfter() {
        return Optional.ofNullable(asked);
    }
}
