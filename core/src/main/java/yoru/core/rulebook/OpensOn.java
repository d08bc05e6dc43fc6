package yoru.core.rulebook;

/** The moment in an order's life that opens what it bought. */
public enum OpensOn {
    PLACED,
    PAID,
    FULFILLED
}
