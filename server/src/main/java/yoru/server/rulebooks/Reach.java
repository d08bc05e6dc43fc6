package yoru.server.rulebooks;

import java.util.List;

/**
 * How far back a publish reaches.
 *
 * @param counts whether what it opens or ends by itself is something to follow up
 * @param past follow-ups that may serve what was before it
 */
public record Reach(boolean counts, List<Served> past) {

    /** Nothing from before is served. */
    public static final Reach FROM_NOW_ON = new Reach(false, List.of());

    public Reach {
        past = List.copyOf(past);
    }

    /** @param letters whether it also writes and tells about what was before */
    public record Served(String followup, boolean letters) {}
}
