package yoru.core.moves;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import yoru.core.access.Access;
import yoru.core.access.HowLong;
import yoru.core.letters.News;
import yoru.core.rulebook.Target;

/**
 * What has opened, what lasts otherwise than was told, and what has ended, for one person.
 *
 * @param opened by target
 * @param changed open as before, but for another time
 * @param ended by target
 */
public record Moves(List<Opened> opened, List<Told> changed, List<Ended> ended) {

    public Moves {
        opened = List.copyOf(opened);
        changed = List.copyOf(changed);
        ended = List.copyOf(ended);
    }

    /**
     * Something that was not open when it was last told, and is.
     *
     * @param howLong as it is kept
     * @param isNews whether the person can do something that they could not; not where only parts were written down of a
     *     course that they have
     */
    public record Opened(Access access, HowLong howLong, boolean isNews) {

        public Target target() {
            return access.target();
        }
    }

    /**
     * Something that was open when it was last told, and is not.
     *
     * @param told how long it was said to last
     * @param isNews whether the person can no longer do something; not where a part is only no longer written down
     */
    public record Ended(Target target, HowLong told, boolean isNews) {}

    /**
     * @param told what was open for the person when the systems were last told
     * @param access all that the person has
     * @param asKept cuts an instant off as what was told is kept
     * @param wasKnown the sections that the rulebook knew by which it was told
     * @param isKnown the sections that the rulebook knows by which access was computed
     */
    public static Moves of(
            Collection<Told> told,
            List<Access> access,
            UnaryOperator<Instant> asKept,
            Predicate<Target.OfSection> wasKnown,
            Predicate<Target.OfSection> isKnown) {
        Map<Target, HowLong> before = new LinkedHashMap<>();
        told.forEach(one -> before.put(one.target(), one.howLong()));
        var open = access.stream().filter(one -> one.state().isOpen()).toList();
        var opened = new ArrayList<Opened>();
        var changed = new ArrayList<Told>();
        Map<Target, HowLong> left = new LinkedHashMap<>(before);
        for (Access one : open) {
            var was = left.remove(one.target());
            var is = HowLong.of(one).kept(asKept);
            if (was == null) {
                opened.add(new Opened(one, is, isNews(one.target(), before.keySet(), wasKnown)));
            } else if (!was.equals(is)) {
                changed.add(new Told(one.target(), is));
            }
        }
        var openNow = open.stream().map(Access::target).toList();
        var ended = left.entrySet().stream()
                .map(it -> new Ended(it.getKey(), it.getValue(), isNews(it.getKey(), openNow, isKnown)))
                .toList();
        return new Moves(opened, changed, ended);
    }

    /** Between two answers of one rulebook at the same time: what would be told where one becomes the other. */
    public static Moves between(List<Access> was, List<Access> is) {
        return between(was, is, section -> true, section -> true);
    }

    /** The same between the answers of two rulebooks, of which each knows its own sections. */
    public static Moves between(
            List<Access> was,
            List<Access> is,
            Predicate<Target.OfSection> wasKnown,
            Predicate<Target.OfSection> isKnown) {
        var told = was.stream()
                .filter(one -> one.state().isOpen())
                .map(one -> new Told(one.target(), HowLong.of(one)))
                .toList();
        return of(told, is, UnaryOperator.identity(), wasKnown, isKnown);
    }

    /** What a letter would tell of it. */
    public List<News> news(Instant now) {
        return opened.stream()
                .filter(Opened::isNews)
                .map(it -> News.of(it.access()))
                .filter(it -> it.isWorthALetter(now))
                .toList();
    }

    /** A section alone says nothing new where the other side has the course and did not know that it has this section. */
    private static boolean isNews(Target target, Collection<Target> others, Predicate<Target.OfSection> knew) {
        return !(target instanceof Target.OfSection section)
                || knew.test(section)
                || !others.contains(new Target.OfCourse(section.course()));
    }
}
