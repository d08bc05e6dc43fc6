package yoru.core.systems;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Target;

/**
 * A connected system, as far as anything is decided by it.
 *
 * @param isOn whether it is told anything
 * @param lists what of it can be opened, each with the address of its page; an empty one = none is known
 * @param frontPageOrNone where people look at it with their browser; none = it has no pages
 * @param nextEndFieldOrNone the field that says when the next of what a person has ends; none = it has no such field
 */
public record ConnectedSystem(
        String id,
        String title,
        boolean isOn,
        Set<Ability> abilities,
        Map<Target, String> lists,
        @Nullable String frontPageOrNone,
        @Nullable String nextEndFieldOrNone) {

    public ConnectedSystem {
        abilities = Set.copyOf(abilities);
        lists = Map.copyOf(lists);
    }

    ConnectedSystem switchedOn() {
        return new ConnectedSystem(id, title, true, abilities, lists, frontPageOrNone, nextEndFieldOrNone);
    }

    public boolean can(Ability ability) {
        return abilities.contains(ability);
    }

    /** The field that says when the next of what a person has ends. */
    public Optional<String> nextEndField() {
        return Optional.ofNullable(nextEndFieldOrNone);
    }

    /** A section comes with its course. */
    boolean lists(Target target) {
        return lists.containsKey(listed(target));
    }

    /** Where people find it: the page that the system names, else the front page. */
    Optional<String> address(Target target) {
        return Optional.ofNullable(lists.get(listed(target)))
                .filter(page -> !page.isEmpty())
                .or(() -> Optional.ofNullable(frontPageOrNone));
    }

    private static Target listed(Target target) {
        return target instanceof Target.OfSection section ? new Target.OfCourse(section.course()) : target;
    }
}
