package yoru.core.ledger;

/** Something in a ledger that was kept but could not be used. */
public sealed interface Warning {

    /** Two facts with one id say different things; the first to arrive counts. */
    record SameIdOtherContent(FactId fact) implements Warning {}

    /** The fact names an order that was never placed. */
    record NoSuchOrder(FactId fact, String order) implements Warning {}

    /** The fact names a line that its order does not have. */
    record NoSuchLine(FactId fact, String order, String line) implements Warning {}

    /** The order names a product that the rulebook lacks. */
    record NoSuchProduct(String order, String line, String product) implements Warning {}

    /** In words, for people. */
    default String sentence() {
        return switch (this) {
            case SameIdOtherContent w ->
                "fact %s of %s arrived twice with different contents; the first counts"
                        .formatted(w.fact.id(), w.fact.source());
            case NoSuchOrder w ->
                "fact %s of %s names order %s, which was never placed".formatted(w.fact.id(), w.fact.source(), w.order);
            case NoSuchLine w ->
                "fact %s of %s names line %s, which order %s does not have"
                        .formatted(w.fact.id(), w.fact.source(), w.line, w.order);
            case NoSuchProduct w ->
                "line %s of order %s names product %s, which is not known".formatted(w.line, w.order, w.product);
        };
    }
}
