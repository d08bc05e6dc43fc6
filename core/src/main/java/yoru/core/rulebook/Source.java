package yoru.core.rulebook;

/** What a person must have bought, hold or be for a link to serve them. */
public sealed interface Source {

    record OfProduct(String product) implements Source {}
}
