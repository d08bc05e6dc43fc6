package yoru.server.deliveries;

/** How far a delivery has come. */
public enum DeliveryState {
    WAITING,
    ANSWERED,
    /** Tried for the whole time allowed; an operator can have it tried again. */
    GIVEN_UP
}
