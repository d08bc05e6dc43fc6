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

    /** Whether it is something that one has for a time, and can lose. */
    default boolean isHeld() {
        return this instanceof OfLevel || this instanceof OfTag;
    }

    /** As it is written on one line: {@code product/QUEEN}. */
    default String path() {
        return switch (this) {
            case OfProduct it -> "product/" + it.product;
            case OfOption it -> "option/" + it.option;
            case OfCategory it -> "category/" + it.category;
            case OfLevel it -> "level/" + it.level;
            case OfTag it -> "tag/" + it.tag;
            case OfCompleted it -> "completed/" + it.course;
        };
    }

    /**
     * What {@link #path()} wrote.
     *
     * @throws IllegalArgumentException when it is no such path
     */
    static Source read(String path) {
        int slash = path.indexOf('/');
        var id = path.substring(slash + 1);
        return switch (path.substring(0, Math.max(0, slash))) {
            case "product" -> new OfProduct(id);
            case "option" -> new OfOption(id);
            case "category" -> new OfCategory(id);
            case "level" -> new OfLevel(id);
            case "tag" -> new OfTag(id);
            case "completed" -> new OfCompleted(id);
            default -> throw new IllegalArgumentException("no source: " + path);
        };
    }
}
