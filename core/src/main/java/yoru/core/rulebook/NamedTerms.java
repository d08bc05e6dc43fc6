package yoru.core.rulebook;

/** Terms that several links share: changed here, they are changed for all of them. */
public record NamedTerms(String id, String title, Terms terms) implements Thing {}
