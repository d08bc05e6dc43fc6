package yoru.core.segments;

import java.util.List;

/**
 * People of whom all of some things are so, or any of them.
 *
 * @param conditions none = everybody
 */
public record Segment(boolean any, List<Condition> conditions) {

    public Segment {
        conditions = List.copyOf(conditions);
    }

    /** @param not whether it must not be so */
    public record Condition(boolean not, Criterion criterion) {}
}
