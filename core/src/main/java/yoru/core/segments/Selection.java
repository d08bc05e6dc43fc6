package yoru.core.segments;

import java.time.Instant;
import java.time.LocalDate;
import java.time.Period;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import java.util.stream.Stream;
import yoru.core.access.Access;
import yoru.core.access.Choices;
import yoru.core.access.Engine;
import yoru.core.followup.PurchaseCount;
import yoru.core.followup.PurchaseCount.Counts;
import yoru.core.ledger.History;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Target;
import yoru.core.segments.Segment.Condition;

/** Says who is in segments at one time. */
public final class Selection {

    private final Engine engine;
    private final PurchaseCount purchases;
    private final Instant asOf;

    public Selection(Engine engine, Instant asOf) {
        this.engine = engine;
        this.purchases = new PurchaseCount(engine.index());
        this.asOf = asOf;
    }

    /**
     * Whether somebody is in each of some segments.
     *
     * @param history as it was known at the as-of time
     * @param name empty = none is known
     */
    public List<Boolean> of(List<Segment> segments, History history, String name) {
        var somebody = new Somebody(history, name, engine.access(history, asOf));
        return segments.stream().map(somebody::isIn).toList();
    }

    public boolean has(Segment segment, History history, String name) {
        return of(List.of(segment), history, name).getFirst();
    }

    /** One person, with what is open to them. */
    private final class Somebody {

        private final History history;
        private final String called;
        private final List<Access> access;

        Somebody(History history, String name, List<Access> access) {
            this.history = history;
            this.called = (name + " " + history.person()).toLowerCase(Locale.ROOT);
            this.access = access;
        }

        boolean isIn(Segment segment) {
            Predicate<Condition> holds = condition -> is(condition.criterion()) != condition.not();
            return segment.conditions().isEmpty()
                    || (segment.any()
                            ? segment.conditions().stream().anyMatch(holds)
                            : segment.conditions().stream().allMatch(holds));
        }

        private boolean is(Criterion criterion) {
            return switch (criterion) {
                case Criterion.Has it -> isOpen(it.target());
                case Criterion.Had it -> !isOpen(it.target()) && wasOpen(it.target());
                case Criterion.WillLose it -> of(it.target()).anyMatch(one -> endsWithin(one, it.within()));
                case Criterion.LosesACourse it ->
                    access.stream()
                            .anyMatch(one -> one.target() instanceof Target.OfCourse && endsWithin(one, it.within()));
                case Criterion.Bought it ->
                    !purchases.all(history, it.set(), it.counts()).isEmpty();
                case Criterion.FirstBought it -> isFirstBought(it);
                case Criterion.CouldChoose it -> couldChoose(it.course());
                case Criterion.Called it -> called.contains(it.words().strip().toLowerCase(Locale.ROOT));
            };
        }

        private Stream<Access> of(Target target) {
            return access.stream().filter(one -> one.target().equals(target));
        }

        private boolean isOpen(Target target) {
            return of(target).anyMatch(one -> one.state().isOpen());
        }

        private boolean wasOpen(Target target) {
            return of(target).anyMatch(one -> one.window().start().isBefore(asOf));
        }

        private boolean endsWithin(Access one, Period within) {
            return one.state().isOpen()
                    && !one.renews()
                    && one.window()
                            .end()
                            .filter(end -> !end.isAfter(engine.calendar().plus(asOf, within)))
                            .isPresent();
        }

        private boolean isFirstBought(Criterion.FirstBought first) {
            return purchases.all(history, first.set(), Counts.PAID).stream()
                    .findFirst()
                    .map(order -> LocalDate.ofInstant(
                            order.placed().time(), engine.calendar().zone()))
                    .filter(day -> !day.isBefore(first.from()) && !day.isAfter(first.to()))
                    .isPresent();
        }

        private boolean couldChoose(String id) {
            return engine.index().rulebook().course(id).stream()
                    .anyMatch(course -> !isOpen(new Target.OfCourse(id))
                            && engine.choices(history, asOf).places().stream()
                                    .anyMatch(places -> hasPlaceFor(places, course)));
        }

        private static boolean hasPlaceFor(Choices.Places places, Course course) {
            Allowance allowance = places.allowance();
            return places.left() > 0
                    && allowance.admits(course)
                    && (!course.premium() || places.premiumLeft().orElse(1) > 0);
        }
    }
}
