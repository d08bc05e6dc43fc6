package yoru.server.followups;

/** Why a run writes and tells nothing. */
public enum Silence {
    /** What it is about became known long after it happened. */
    LATE,
    /** Whoever had it serve what was before it wanted no letters. */
    WITHOUT_LETTERS
}
