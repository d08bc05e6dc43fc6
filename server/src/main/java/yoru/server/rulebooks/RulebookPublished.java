package yoru.server.rulebooks;

/** A rulebook is in force from now on; published in the transaction that keeps it. */
public record RulebookPublished(int number) {}
