package yoru.core.access;

/** How a window of access stands at the as-of time. */
public enum State {
    SCHEDULED,
    OPEN,
    /** Open, although for every reason that is open a payment is due. */
    GRACE,
    /** Over, but a missing payment would bring it back. */
    SUSPENDED,
    ENDED;

    /** Whether one may be there now. */
    public boolean isOpen() {
        return this == OPEN || this == GRACE;
    }
}
