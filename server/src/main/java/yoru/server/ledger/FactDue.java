package yoru.server.ledger;

import yoru.core.ledger.Fact;

/**
 * The time of a fact has come that was kept when it still lay in the future; published in a transaction of its own. Whoever
 * looks at what is so now, when a fact is kept, looks again.
 */
public record FactDue(Fact fact) {}
