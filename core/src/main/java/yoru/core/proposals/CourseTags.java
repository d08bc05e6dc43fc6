package yoru.core.proposals;

import java.util.ArrayList;
import java.util.List;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.TagName;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** The tags of a course by the school's own names, with the links that put them on and lead on from them. */
public final class CourseTags {

    private final Rulebook rulebook;
    private final RulebookIndex index;

    public CourseTags(Rulebook rulebook) {
        this.rulebook = rulebook;
        this.index = new RulebookIndex(rulebook);
    }

    /**
     * What is to be made.
     *
     * @param tags those that there are not yet
     * @param cells the links that are not there yet
     */
    public record Made(List<Named> tags, List<CellChange> cells) {}

    /** For these courses, under every name that the school has. What is there already is left as it is. */
    public Made of(List<Course> courses) {
        var tags = new ArrayList<Named>();
        var cells = new ArrayList<CellChange>();
        for (Course course : courses) {
            for (TagName name : rulebook.school().tagNames()) {
                var tag = name.of(course.id());
                if (!index.knowsTag(tag)) {
                    tags.add(new Named(tag, tag));
                }
                links(course, name.role(), tag).stream()
                        .filter(change -> !isThere(change))
                        .forEach(cells::add);
            }
        }
        return new Made(List.copyOf(tags), List.copyOf(cells));
    }

    private List<CellChange> links(Course course, TagName.Role role, String tag) {
        var toTag = new Destination.Exactly(new Target.OfTag(tag));
        return switch (role) {
            case BOUGHT ->
                rulebook.links().stream()
                        .filter(link -> link.from().isBought() && opens(link, course))
                        .map(link -> new CellChange(link.from(), toTag, asLongAsBought(link)))
                        .distinct()
                        .toList();
            case OPENS -> List.of(new CellChange(new Source.OfTag(tag), Destination.whole(course.id()), Terms.DEFAULT));
            case FINISHED -> List.of(new CellChange(new Source.OfCompleted(course.id()), toTag, Terms.DEFAULT));
            case REFUNDED -> List.of();
        };
    }

    private boolean opens(Link link, Course course) {
        return index.targets(link).contains(new Target.OfCourse(course.id()));
    }

    /** Whoever bought it has bought it, however long it stays open; only the money given back undoes that. */
    private static Terms asLongAsBought(Link link) {
        return Terms.DEFAULT.with(
                new Length.Held(), Terms.OnRefund.END, link.terms().refundShare());
    }

    private boolean isThere(CellChange change) {
        return rulebook.links().stream().anyMatch(link -> link.leads(change.source(), change.destination()));
    }
}
