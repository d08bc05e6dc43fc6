package yoru.core.rulebook;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Where a link leads: one or more targets, said in one piece. */
public sealed interface Destination {

    /**
     * A course with its sections.
     *
     * @param upToTier which sections; none = all
     */
    record OfCourse(String course, @Nullable String upToTier) implements Destination {
        public Optional<String> tier() {
            return Optional.ofNullable(upToTier);
        }
    }

    /**
     * All courses that are in a category, also those that will be.
     *
     * @param except but not these
     * @param upToTier which of their sections; none = all
     */
    record OfCategory(
            String category, List<String> except, @Nullable String upToTier) implements Destination {
        public OfCategory {
            except = List.copyOf(except);
        }

        public Optional<String> tier() {
            return Optional.ofNullable(upToTier);
        }
    }

    /** One target and no more; a section comes with the entry to its course. */
    record Exactly(Target target) implements Destination {}

    /** Where it stands in the mapping, as a path: the same for every tier and with whatever exceptions. */
    default String place() {
        return switch (this) {
            case OfCourse it -> "course/" + it.course;
            case OfCategory it -> "category/" + it.category;
            case Exactly it -> it.target.path();
        };
    }

    /** The whole of a course. */
    static Destination whole(String course) {
        return new OfCourse(course, null);
    }

    /** The whole of a target: a course with its sections, anything else as it is. */
    static Destination to(Target target) {
        return target instanceof Target.OfCourse it ? whole(it.course()) : new Exactly(target);
    }
}
