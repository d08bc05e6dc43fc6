package yoru.server.followups;

import java.util.Set;

/** How far a step is. */
public enum StepState {
    /** It waits for those before it. */
    DUE,
    /** What it gives or takes is to be told to the systems. */
    BEGUN,
    /** Systems have been told, and have not all answered. */
    GOING,
    DONE,
    /** Somebody said not to wait for it. */
    SKIPPED,
    /** It would have written or told something, and was too late for it. */
    SILENT,
    /** Its run was stopped before it began. */
    STOPPED;

    /** Those in which a step has something left to do. */
    static final Set<StepState> OPEN = Set.of(DUE, BEGUN, GOING);
}
