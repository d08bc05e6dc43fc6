package yoru.core.followup;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Target;

/** What follow-ups know of one person besides facts. */
final class PersonState {

    /**
     * An occasion that was served.
     *
     * @param order none = it is about none
     * @param thing none = it is about none
     */
    record Served(
            String followup,
            String occasion,
            @Nullable String order,
            @Nullable String thing) {}

    /** A value that was set, and when. */
    record SetValue(String value, Instant at) {}

    final Set<Served> served = new HashSet<>();
    /** By follow-up: whoever was served by hand before. */
    final Set<String> adopted = new HashSet<>();
    /** What was open just before the instant at hand. */
    Set<Target> open = new HashSet<>();
    /** What was ever open before the instant at hand. */
    final Set<Target> everOpen = new HashSet<>();

    final Set<String> endings = new HashSet<>();
    final Map<String, SetValue> fields = new HashMap<>();

    /** What several people were and had counts for all of them once they are one. */
    static PersonState of(Collection<PersonState> people) {
        var one = new PersonState();
        for (PersonState it : people) {
            one.served.addAll(it.served);
            one.adopted.addAll(it.adopted);
            one.open.addAll(it.open);
            one.everOpen.addAll(it.everOpen);
            one.endings.addAll(it.endings);
            it.fields.forEach((name, value) ->
                    one.fields.merge(name, value, (first, other) -> other.at.isAfter(first.at) ? other : first));
        }
        return one;
    }
}
