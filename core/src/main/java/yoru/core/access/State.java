package yoru.core.access;

/** How a window of access stands at the as-of time. */
public enum State {
    SCHEDULED,
    OPEN,
    ENDED
}
