package yoru.core.rulebook;

import java.util.List;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;

/**
 * Courses that a level lets a person choose.
 *
 * @param courses how many at a time
 * @param ofThemPremium how many of them may be premium; none = no limit of its own
 * @param categories from which; none = from all
 * @param except but not these courses
 */
public record Allowance(int courses, @Nullable Integer ofThemPremium, List<String> categories, List<String> except) {

    public Allowance {
        categories = List.copyOf(categories);
        except = List.copyOf(except);
    }

    public OptionalInt premium() {
        return ofThemPremium == null ? OptionalInt.empty() : OptionalInt.of(ofThemPremium);
    }

    public boolean admits(Course course) {
        return !except.contains(course.id())
                && (categories.isEmpty() || course.categories().stream().anyMatch(categories::contains));
    }
}
