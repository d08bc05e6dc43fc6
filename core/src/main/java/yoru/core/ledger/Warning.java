package yoru.core.ledger;

import java.util.Comparator;

/** Something in a ledger that was kept but could not be used. */
public sealed interface Warning {

    /** By fact, then by what is said. */
    Comparator<Warning> ORDER = Comparator.comparing(Warning::fact).thenComparing(Warning::sentence, ByCodePoint.ORDER);

    /** The fact that could not be used, or not wholly. */
    FactId fact();

    /** Two facts with one id say different things; the first to arrive counts. */
    record SameIdOtherContent(FactId fact) implements Warning {}

    /** The fact is of a kind that is not known. */
    record UnknownType(FactId fact, String type) implements Warning {}

    /** The fact names an order that was never placed. */
    record NoSuchOrder(FactId fact, String order) implements Warning {}

    /** The fact names a line that its order does not have. */
    record NoSuchLine(FactId fact, String order, String line) implements Warning {}

    /** The fact claims a seat that the line does not have, or that is the buyer's own. */
    record NoSuchSeat(FactId fact, String order, String line, int seat) implements Warning {}

    /** The fact names an instalment that the line does not have. */
    record NoSuchInstalment(FactId fact, String order, String line, int number) implements Warning {}

    /** The fact names a subscription that was not started, or only later. */
    record NoSuchSubscription(FactId fact, String subscription) implements Warning {}

    /** The fact names a grant that was never given. */
    record NoSuchGrant(FactId fact, String grant) implements Warning {}

    /**
     * The fact names something that the rulebook lacks.
     *
     * @param kind such as "product"
     */
    record NotInRulebook(FactId fact, String kind, String id) implements Warning {}

    /** In words, for people. */
    default String sentence() {
        return switch (this) {
            case SameIdOtherContent w -> said(w, "was told twice with other content; the first counts");
            case UnknownType w -> said(w, "is of the type %s, which is not known".formatted(w.type));
            case NoSuchOrder w -> said(w, "names order %s, which was never placed".formatted(w.order));
            case NoSuchLine w -> said(w, "names line %s, which order %s does not have".formatted(w.line, w.order));
            case NoSuchSeat w ->
                said(w, "claims seat %d, which line %s of order %s does not have".formatted(w.seat, w.line, w.order));
            case NoSuchInstalment w ->
                said(
                        w,
                        "names instalment %d, which line %s of order %s does not have"
                                .formatted(w.number, w.line, w.order));
            case NoSuchSubscription w ->
                said(w, "names subscription %s, which was not started before".formatted(w.subscription));
            case NoSuchGrant w -> said(w, "names grant %s, which was never given".formatted(w.grant));
            case NotInRulebook w -> said(w, "names %s %s, which the rulebook does not have".formatted(w.kind, w.id));
        };
    }

    private static String said(Warning warning, String rest) {
        return "fact " + warning.fact().words() + " " + rest;
    }
}
