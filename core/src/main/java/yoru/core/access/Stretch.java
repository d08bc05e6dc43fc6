package yoru.core.access;

import java.time.Instant;

/**
 * A window with the holes in it.
 *
 * @param span from when to when, but for the holes
 * @param suspended holes because a payment is missing
 * @param takenOut holes because a higher level covers
 * @param grace where it is open although a payment is due
 * @param open the span without its holes
 */
public record Stretch(Window span, Windows suspended, Windows takenOut, Windows grace, Windows open) {

    static Stretch of(Window span, Windows suspended, Windows takenOut, Windows grace) {
        var itsSuspended = suspended.within(span);
        var itsTakenOut = takenOut.within(span);
        return new Stretch(
                span,
                itsSuspended,
                itsTakenOut,
                grace.within(span),
                Windows.of(span).minus(itsSuspended).minus(itsTakenOut));
    }

    static Stretch whole(Window span) {
        return new Stretch(span, Windows.NONE, Windows.NONE, Windows.NONE, Windows.of(span));
    }

    /** With further holes, that are no suspension. */
    Stretch without(Windows others) {
        return of(span, suspended, takenOut.plus(others), grace);
    }

    /** Whether it is neither open nor suspended at any time. */
    boolean isNothing() {
        return open.isEmpty() && suspended.minus(takenOut).isEmpty();
    }

    /** Whether it runs at the instant but gives nothing, because a payment is missing. */
    public boolean isSuspendedAt(Instant instant) {
        return suspended.contains(instant) && !takenOut.contains(instant);
    }
}
