package yoru.server.journal;

/** What a line of the journal is about. */
public enum Kind {
    /** A fact arrived. */
    FACT,
    /** Something arrived that could be used only in part. */
    WARNING,
    /** Something was turned away at the door. */
    REFUSED,
    OPENED,
    ENDED,
    /** A connected system did what it was told. */
    ANSWERED,
    /** A connected system did not. */
    FAILED,
    PUBLISHED,
    /** An operator did something else. */
    OPERATOR
}
