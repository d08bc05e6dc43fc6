package yoru.core.desk;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import yoru.core.access.Access;
import yoru.core.access.Choices;
import yoru.core.access.Engine;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.time.SchoolCalendar;

/** What is done about a person. */
final class PersonActs {

    private final Engine engine;
    private final RulebookIndex index;
    private final SchoolCalendar calendar;
    private final Ledger known;
    private final Histories histories;
    private final Instant now;
    private final Deciding deciding;

    /** @param known the facts of which the histories are made */
    PersonActs(Engine engine, Ledger known, Histories histories, Instant now, Deciding deciding) {
        this.engine = engine;
        this.index = engine.index();
        this.calendar = engine.calendar();
        this.known = known;
        this.histories = histories;
        this.now = now;
        this.deciding = deciding;
    }

    void decide(Act.AboutPerson act) {
        var history = histories.person(histories.personOf(act.person()));
        switch (act) {
            case Act.Sell it -> new Sale(index, calendar, now, deciding).decide(it);
            case Act.Give it -> {
                deciding.address("person", it.person());
                deciding.reason(it.reason());
                deciding.refuseIf(it.to().isEmpty(), "to", "Choose what to give.");
                deciding.refuseIf(
                        it.to().stream().anyMatch(to -> !index.knows(to)), "to", "The mapping does not know this.");
                deciding.refuseIf(it.length() != null && it.length().isZero(), "length", "It would end as it begins.");
                deciding.fact(
                        it.person(),
                        new Happening.GrantGiven(
                                deciding.key(),
                                it.to(),
                                it.length(),
                                it.reason().strip()));
            }
            case Act.Extend it -> extend(it, history);
            case Act.EndGrant it -> {
                var grant = history.grants().stream()
                        .filter(given -> given.details().grant().equals(it.grant()))
                        .findFirst();
                deciding.refuseIf(grant.isEmpty(), "grant", "Nothing of that name was given.");
                deciding.refuseIf(grant.flatMap(given -> given.ended()).isPresent(), "grant", "It was ended already.");
                deciding.fact(it.person(), new Happening.GrantEnded(it.grant()));
            }
            case Act.Choose it -> choose(it, history);
            case Act.Release it -> {
                var choices = engine.choices(history, now);
                deciding.refuseIf(!isChosen(choices, it.course()), "course", "It was not chosen.");
                deciding.fact(it.person(), new Happening.CourseReleased(it.course()));
            }
            case Act.EndSubscription it -> {
                deciding.refuseIf(
                        history.subscriptions().stream()
                                .noneMatch(one -> one.id().equals(it.subscription())),
                        "subscription",
                        "There is no such subscription.");
                deciding.fact(it.person(), new Happening.SubscriptionCancelled(it.subscription(), it.atPeriodEnd()));
            }
            case Act.StartLevel it -> {
                deciding.refuseIf(index.level(it.level()).isEmpty(), "level", "There is no such level.");
                deciding.fact(it.person(), new Happening.LevelStarted(it.level()));
            }
            case Act.EndLevel it -> {
                deciding.refuseIf(
                        !isOutside(history.levels(), new Happening.LevelStarted(it.level())),
                        "level",
                        "It was not given by hand or by a system.");
                deciding.fact(it.person(), new Happening.LevelEnded(it.level()));
            }
            case Act.ChangeLevel it -> changeLevel(it, history);
            case Act.AddTag it -> {
                deciding.refuseIf(!index.knowsTag(it.tag()), "tag", "There is no such tag.");
                deciding.fact(it.person(), new Happening.TagAdded(it.tag()));
            }
            case Act.RemoveTag it -> {
                deciding.refuseIf(
                        !isOutside(history.tags(), new Happening.TagAdded(it.tag())),
                        "tag",
                        "It was not put on by hand or by a system.");
                deciding.fact(it.person(), new Happening.TagRemoved(it.tag()));
            }
            case Act.Join it -> {
                deciding.address("into", it.into());
                deciding.refuseIf(it.person().equals(it.into()), "into", "This is the same person.");
                deciding.refuseIf(
                        histories.mergedInto(it.person()).isPresent(),
                        "person",
                        "They are joined with somebody already.");
                deciding.refuseIf(histories.isOnePerson(it.person(), it.into()), "into", "They are joined already.");
                deciding.fact(it.person(), new Happening.PersonMerged(it.into()));
            }
            case Act.Part it -> {
                var with = histories.mergedInto(it.person());
                deciding.refuseIf(with.isEmpty(), "person", "They are not joined with anybody.");
                with.ifPresent(into -> deciding.fact(it.person(), new Happening.PersonParted(into)));
            }
            case Act.Erase it -> {
                deciding.refuseIf(
                        !histories.personOf(it.person()).equals(it.person()),
                        "person",
                        "They are joined with somebody: erase that one, or part them first.");
                deciding.fact(it.person(), new Happening.PersonErased());
            }
        }
    }

    private void extend(Act.Extend act, History history) {
        deciding.reason(act.reason());
        deciding.refuseIf(act.by().isZero() || act.by().isNegative(), "by", "Nothing would be added.");
        var open = engine.access(history, now).stream()
                .filter(one -> one.target().equals(act.target()) && one.state().isOpen())
                .findFirst();
        deciding.refuseIf(open.isEmpty(), "target", "It is not open: give it instead.");
        var end = open.map(Access::window).flatMap(window -> window.end());
        deciding.refuseIf(open.isPresent() && end.isEmpty(), "target", "It has no end.");
        if (end.isPresent()) {
            deciding.fact(
                    act.person(),
                    new Happening.GrantGiven(
                            deciding.key(),
                            List.of(Destination.to(act.target())),
                            null,
                            calendar.plus(end.get(), act.by()),
                            null,
                            act.reason().strip()));
        }
    }

    private void changeLevel(Act.ChangeLevel act, History history) {
        deciding.reason(act.reason());
        var choices = engine.choices(history, now);
        deciding.refuseIf(
                act.returned().stream().anyMatch(course -> !isChosen(choices, course)),
                "returned",
                "One of the courses was not chosen.");
        var outcome = LevelChange.of(act, history, engine, now, deciding.key());
        outcome.refusals().forEach(it -> deciding.refuse(it.field(), it.problem()));
        outcome.happenings().forEach(happening -> deciding.fact(act.person(), happening));
    }

    private void choose(Act.Choose act, History history) {
        deciding.refuseIf(index.course(act.course()).isEmpty(), "course", "There is no such course.");
        deciding.refuseIf(isChosen(engine.choices(history, now), act.course()), "course", "It is chosen already.");
        deciding.fact(act.person(), new Happening.CourseChosen(act.course()));
        if (deciding.isClear()) {
            var with = new ArrayList<>(known.facts());
            with.addAll(deciding.facts());
            var after = engine.choices(Histories.of(Ledger.of(with)).person(histories.personOf(act.person())), now);
            deciding.refuseIf(
                    after.waiting().contains(act.course()), "course", "The allowance has no place left for it.");
        }
    }

    private static boolean isChosen(Choices choices, String course) {
        return choices.waiting().contains(course)
                || choices.places().stream().anyMatch(places -> places.taken().contains(course));
    }

    /** Whether the last that was said about it outside says that it is held. */
    private static boolean isOutside(List<Fact> facts, Happening held) {
        return facts.stream()
                .filter(fact -> isAbout(fact.happening(), held))
                .reduce((first, later) -> later)
                .filter(fact -> fact.happening().equals(held))
                .isPresent();
    }

    private static boolean isAbout(Happening happening, Happening held) {
        return (held instanceof Happening.OfLevel it
                        && happening instanceof Happening.OfLevel other
                        && other.level().equals(it.level()))
                || (held instanceof Happening.OfTag tag
                        && happening instanceof Happening.OfTag another
                        && another.tag().equals(tag.tag()));
    }
}
