package yoru.server.systems;

/** What a connected system is. */
public enum SystemKind {
    /** Sells, and reports what happened. */
    SHOP,
    /** Teaches, and is told who may enter. */
    CLASSROOM
}
