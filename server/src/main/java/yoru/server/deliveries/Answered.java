package yoru.server.deliveries;

import java.util.Collection;

/**
 * Systems have answered something about people, or did not take it; published in the transaction that notes it, in which the
 * people are locked.
 */
public record Answered(Collection<Long> people) {}
