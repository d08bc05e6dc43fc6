package yoru.core.rulebook;

/** Something that a rulebook lists under an id: what can be sold, opened or named. Its {@link Sort} says which. */
public sealed interface Thing permits Course, Product, Level, Named, NamedTerms {

    String id();

    String title();
}
