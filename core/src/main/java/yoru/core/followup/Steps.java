package yoru.core.followup;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Engine;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Happening.FollowupWent;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** Goes through the steps of runs. */
final class Steps {

    private static final Pattern DOT = Pattern.compile("\\.");

    private final Engine engine;
    private final Rulebook rulebook;
    private final Conditions conditions;
    private final Causes causes;
    private final Texts texts;
    private final Book book;

    Steps(Engine engine, Wording wording, Conditions conditions, Causes causes, Book book) {
        this.engine = engine;
        this.rulebook = engine.index().rulebook();
        this.conditions = conditions;
        this.causes = causes;
        this.texts = new Texts(engine.index(), causes, wording);
        this.book = book;
    }

    /** From the start, or from behind a step, to the next wait or the end. */
    void stretch(Run run, List<String> from) {
        steps(run, run.as.steps(), "", from);
        if (run.until != null) {
            book.waiting.add(run);
        }
        decided(run);
    }

    /** What was decided stands from now on. */
    void decided(Run run) {
        run.stretches++;
        var mark = book.fact(
                run,
                run.key().stretch(run.stretches),
                new FollowupWent(
                        run.as.id(),
                        run.occasion.key(),
                        book.round,
                        run.did,
                        run.until == null ? null : String.join(".", run.waits),
                        run.until,
                        run.stretches == 1 ? run.as : null,
                        false));
        book.decided.add(new Followups.Decided(
                mark,
                book.view(run).person(),
                run.occasion.moment(),
                run.occasion.orderOrNone(),
                run.occasion.thing().orElse(null),
                texts.title(run.occasion),
                run.said,
                run.questions,
                run.stretches == 1 && run.as.when().isAnswered()));
        run.next();
    }

    private enum Way {
        ON,
        STOPS
    }

    private Way steps(Run run, List<Step> steps, String place, List<String> from) {
        int at = 0;
        if (from.isEmpty()) {
            run.until = null;
        } else {
            at = Integer.parseInt(from.getFirst());
            if (from.size() > 1 && steps.get(at - 1) instanceof Step.If it) {
                var branch = from.get(1);
                var way = steps(
                        run,
                        branch.equals("then") ? it.then() : it.otherwise(),
                        place + at + "." + branch + ".",
                        from.subList(2, from.size()));
                if (way == Way.STOPS) {
                    return way;
                }
            } else {
                run.until = null;
            }
        }
        for (; at < steps.size(); at++) {
            if (step(run, steps.get(at), place + (at + 1)) == Way.STOPS) {
                return Way.STOPS;
            }
        }
        return Way.ON;
    }

    private Way step(Run run, Step step, String place) {
        var view = book.view(run);
        switch (step) {
            case Step.Give it -> {
                if (!causes.hasEnded(run, view)) {
                    Targets.of(it.to(), rulebook).forEach(target -> give(run, place, target, it));
                }
            }
            case Step.Take it -> Targets.of(it.from(), rulebook).forEach(target -> take(run, place, target, view));
            case Step.SetField it -> {
                var value = texts.fill(it.value(), run, view);
                book.does(run, place, "set " + it.field() + "=" + value);
                view.state().fields.put(it.field(), new PersonState.SetValue(value, book.now));
            }
            case Step.Write it -> {
                book.does(
                        run,
                        place,
                        "write " + texts.fill(it.subject(), run, view) + (it.code() == null ? "" : " +code"));
                run.said.add(new Followups.Said(
                        place, texts.word(it.subject(), run, view), texts.word(it.text(), run, view), it.code()));
            }
            case Step.Tell it -> {
                book.does(run, place, "tell " + texts.fill(it.text(), run, view));
                run.said.add(new Followups.Said(place, "", texts.word(it.text(), run, view), null));
            }
            case Step.WaitFor it -> {
                return waits(run, place, engine.calendar().plus(book.now, it.length()));
            }
            case Step.WaitUntil it -> {
                return waits(run, place, engine.calendar().next(book.now, it.at()));
            }
            case Step.If it -> {
                boolean holds = asks(run, place, it.of(), view);
                return steps(
                        run, holds ? it.then() : it.otherwise(), place + (holds ? ".then." : ".otherwise."), List.of());
            }
            case Step.Stop _ -> {
                return Way.STOPS;
            }
        }
        return Way.ON;
    }

    /** Whether conditions hold; what was asked is kept with the run. */
    boolean asks(Run run, String place, List<Condition> of, View view) {
        var question = conditions.ask(place, of, run.occasion, view);
        run.questions.add(question);
        return question.holds();
    }

    private static Way waits(Run run, String place, Instant until) {
        run.waits = parts(place);
        run.until = until;
        return Way.STOPS;
    }

    private void give(Run run, String place, Target target, Step.Give step) {
        book.does(run, place, "give " + target.path());
        var lengthEnds = step.length() == null ? null : engine.calendar().plus(book.now, step.length());
        var one = new Given(run, place, target, lengthEnds);
        book.given.add(one);
        book.made.add(book.fact(
                run,
                one.id(),
                new Happening.GrantGiven(one.id(), List.of(Destination.to(target)), step.length(), run.as.title())));
    }

    private void take(Run run, String place, Target target, View view) {
        book.does(run, place, "take " + target.path());
        for (Given one : List.copyOf(book.given)) {
            if (one.target().equals(target)
                    && book.histories.personOf(one.run().person).equals(view.person())) {
                book.end(one, book.made);
            }
        }
        if (target instanceof Target.OfTag it && isOn(it.tag(), view)) {
            book.made.add(book.fact(run, run.key().takenOff(place, target.path()), new Happening.TagRemoved(it.tag())));
        }
    }

    /** Whether a tag was put on outside and not taken off. */
    private static boolean isOn(String tag, View view) {
        return view.history().tags().stream()
                .filter(fact -> fact.happening() instanceof Happening.OfTag it
                        && it.tag().equals(tag))
                .reduce((first, later) -> later)
                .filter(fact -> fact.happening() instanceof Happening.TagAdded)
                .isPresent();
    }

    /** A stretch that was decided before stands as it was. */
    void stands(Fact mark, Marks marks) {
        var went = (FollowupWent) mark.happening();
        var as = marks.as(RunKey.of(mark));
        if (as == null) {
            return;
        }
        var occasion = Occasions.read(as, went.occasion(), mark.time(), book.histories);
        var run = marks.run(mark, () -> new Run(as, mark.subject(), occasion));
        for (Happening.Did did : went.did()) {
            stands(run, did.step(), did.does());
        }
        run.next();
        run.stretches++;
        run.until = null;
        if (went.waits() != null && went.until() != null && marks.isLast(mark)) {
            waits(run, went.waits(), went.until());
            if (run.until != null && run.until.isAfter(book.now)) {
                book.waiting.add(run);
            }
        }
    }

    private void stands(Run run, String place, String does) {
        int space = does.indexOf(' ');
        var what = does.substring(0, Math.max(0, space));
        var about = does.substring(space + 1);
        var view = book.view(run);
        switch (what) {
            case "give" -> {
                var step = find(run.as.steps(), place);
                give(
                        run,
                        place,
                        Target.read(about),
                        step instanceof Step.Give it ? it : new Step.Give(List.of(), null));
            }
            case "take" -> take(run, place, Target.read(about), view);
            case "set" -> {
                int equals = about.indexOf('=');
                book.row(run, place, does);
                view.state()
                        .fields
                        .put(
                                about.substring(0, equals),
                                new PersonState.SetValue(about.substring(equals + 1), book.now));
            }
            default -> book.row(run, place, does);
        }
    }

    /** {@code 4.then.1} in its parts. */
    private static List<String> parts(String place) {
        return List.of(DOT.split(place, -1));
    }

    private static @Nullable Step find(List<Step> steps, String place) {
        var parts = parts(place);
        Collection<Step> in = steps;
        Step found = null;
        for (int at = 0; at < parts.size(); at += 2) {
            int number = Integer.parseInt(parts.get(at));
            found = in.stream().skip(number - 1L).findFirst().orElse(null);
            if (at + 1 < parts.size()) {
                if (!(found instanceof Step.If it)) {
                    return null;
                }
                in = parts.get(at + 1).equals("then") ? it.then() : it.otherwise();
            }
        }
        return found;
    }
}
