package yoru.core.ledger;

/** How an order came in. */
public enum Channel {
    SHOP,
    /** Entered by somebody of the school. */
    HAND
}
