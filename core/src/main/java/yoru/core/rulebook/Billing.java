package yoru.core.rulebook;

/** How a product is paid for. */
public enum Billing {
    ONCE,
    FREE
}
