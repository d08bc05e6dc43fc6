package yoru.server.platform;

import java.util.UUID;

/**
 * Somebody no longer works with Yoru; published in the transaction in which they leave.
 *
 * @param id of their account
 */
public record OperatorLeft(UUID id, String name) {}
