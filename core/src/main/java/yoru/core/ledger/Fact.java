package yoru.core.ledger;

import java.time.Instant;

/**
 * Something that happened.
 *
 * @param subject the key of the person it is about
 * @param time when it happened (UTC), not when it was heard of
 */
public record Fact(FactId id, String subject, Instant time, Happening happening) {}
