package yoru.core.rulebook;

/**
 * Levels in the order of their ranks.
 *
 * @param higherIncludesLower whether who holds a higher level also has what the lower ones open; otherwise the higher
 *     one covers the lower ones
 */
public record Ladder(String id, boolean higherIncludesLower) {}
