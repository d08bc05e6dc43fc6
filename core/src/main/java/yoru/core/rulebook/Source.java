package yoru.core.rulebook;

/** What a person must have bought, hold or be for a link to serve them. */
public sealed interface Source {

    /** A product, with whatever option or none. */
    record OfProduct(String product) implements Source {}

    record OfOption(String option) implements Source {}

    /** Any product of a category. */
    record OfCategory(String category) implements Source {}

    record OfLevel(String level) implements Source {}

    record OfTag(String tag) implements Source {}

    /** A course that the person has finished. */
    record OfCompleted(String course) implements Source {}

    /** Whether it is something that one buys. */
    default boolean isBought() {
        return switch (this) {
            case OfProduct _, OfOption _, OfCategory _ -> true;
            case OfLevel _, OfTag _, OfCompleted _ -> false;
        };
    }
}
