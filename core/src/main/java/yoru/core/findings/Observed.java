package yoru.core.findings;

import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the rulebook does not say: what was sold, what the connected systems list, what the time is.
 *
 * @param offers what the shops list; none = no shop was asked
 * @param courses what the classrooms list; none = no classroom was asked
 * @param now in the school's zone; none = nothing is over
 */
public record Observed(
        List<Sales> sales,
        @Nullable List<Offer> offers,
        @Nullable List<CourseState> courses,
        @Nullable LocalDateTime now) {

    /** A rulebook is all there is. */
    public static final Observed NOTHING = new Observed(List.of(), null, null, null);

    /**
     * A product as its shop lists it.
     *
     * @param thing whether it is something to post
     */
    public record Offer(String product, BigDecimal price, String currency, boolean thing) {}
}
