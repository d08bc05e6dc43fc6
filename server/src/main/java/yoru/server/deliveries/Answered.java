package yoru.server.deliveries;

/**
 * A system has answered something about a person, or did not take it; published in the transaction that notes it, in which the
 * person is locked.
 */
public record Answered(long person) {}
