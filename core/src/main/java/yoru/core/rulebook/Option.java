package yoru.core.rulebook;

/** A way in which a product is sold. Its id is its own among all products. */
public record Option(String id, String title) {}
