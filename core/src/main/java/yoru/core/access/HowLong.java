package yoru.core.access;

import java.time.Instant;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * How long something goes on, as far as one can promise.
 *
 * @param endOrNone when it ends; none = it does not
 * @param renews whether that is only the day on which it would close without a further payment
 */
public record HowLong(@Nullable Instant endOrNone, boolean renews) {

    public static final HowLong ALWAYS = new HowLong(null, false);

    public static HowLong until(@Nullable Instant end, boolean renews) {
        return new HowLong(end, end != null && renews);
    }

    public static HowLong of(Access access) {
        return until(access.window().endOrNone(), access.renews());
    }

    /** The same, with its end cut off as it is kept. */
    public HowLong kept(UnaryOperator<Instant> asKept) {
        return endOrNone == null ? this : until(asKept.apply(endOrNone), renews);
    }

    /** The end, where there is one that a payment will not move. */
    public Optional<Instant> realEnd() {
        return renews ? Optional.empty() : Optional.ofNullable(endOrNone);
    }

    /** "until 12 Oct 2027", "as long as it is paid for", "without an end". */
    public String inWords(Words words) {
        if (renews) {
            return "as long as it is paid for";
        }
        return endOrNone == null ? "without an end" : "until " + words.day(endOrNone);
    }
}
