package yoru.server.orders;

/** What is left to do about an order. */
public enum ToDo {
    /** Something is owed. */
    PAYMENT,
    /** A thing is to be sent, or the school waits for a word that it is done. */
    FULFIL,
    /** A gift or a seat has not been taken up. */
    CLAIM
}
