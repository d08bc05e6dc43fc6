package yoru.core.rulebook;

/** What a quantity above one means. */
public enum Quantity {
    /** The same as one. */
    ONCE,
    /** As many times the length. */
    LONGER,
    /** As many seats, for as many people. */
    SEATS
}
