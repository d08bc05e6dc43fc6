package yoru.server.deliveries;

/**
 * A system has answered something about a person, or it was given up; published in the transaction that notes it, in which
 * the person is locked.
 */
public record Settled(long person) {}
