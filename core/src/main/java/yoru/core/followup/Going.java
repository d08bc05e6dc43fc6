package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Happening.FollowupWent;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Once;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** Goes through the instants of people who belong together, once. */
final class Going {

    private static final Pattern DOT = Pattern.compile("\\.");

    private final Engine engine;
    private final Rulebook rulebook;
    private final Conditions conditions;
    private final Occasions occasions;
    private final Causes causes;
    private final Texts texts;
    private final Instant asOf;

    /** What others reported, in folding order. */
    private final List<Fact> reported;

    private final Marks marks;
    private final Set<String> keys;
    private final Map<String, PersonState> states = new HashMap<>();
    private final List<Fact> own = new ArrayList<>();
    private final List<Fact> decided = new ArrayList<>();
    private final List<Followups.Row> rows = new ArrayList<>();
    private final List<Run> waiting = new ArrayList<>();
    private final List<Given> given = new ArrayList<>();

    // of the instant at hand
    private Instant now = Instant.MIN;
    private int round;
    private List<Fact> madeNow = new ArrayList<>();
    private Map<String, View> views = Map.of();
    private Histories histories = Histories.of(Ledger.of(List.of()));

    Going(Engine engine, Ledger ledger, Instant asOf) {
        this.engine = engine;
        this.rulebook = engine.index().rulebook();
        this.conditions = new Conditions(engine);
        this.occasions = new Occasions(engine);
        this.causes = new Causes(engine, conditions);
        this.texts = new Texts(engine);
        this.asOf = asOf;
        var known = ledger.asOf(asOf);
        this.reported = known.facts().stream()
                .filter(fact -> !Followups.isOwn(fact) || fact.happening() instanceof Happening.FollowupStopped)
                .toList();
        this.marks = new Marks(known.facts());
        this.keys = Stream.concat(reported.stream(), marks.facts().stream())
                .map(Fact::subject)
                .collect(Collectors.toCollection(() -> new TreeSet<>(ByCodePoint.ORDER)));
        var all = Histories.of(Ledger.of(reported));
        keys.forEach(key -> states.put(key, marks.served(key, all)));
    }

    Followups.Done done() {
        var next = next(Instant.MIN);
        while (next.isPresent()) {
            now = next.get();
            instant();
            next = next(now);
        }
        return new Followups.Done(rows, own, decided);
    }

    /** The first instant after another at which anything can become due. */
    private Optional<Instant> next(Instant after) {
        Set<Instant> times = new HashSet<>();
        reported.forEach(fact -> times.add(fact.time()));
        marks.facts().forEach(fact -> times.add(fact.time()));
        waiting.forEach(run -> times.add(Objects.requireNonNull(run.until)));
        for (Given one : given) {
            if (one.lengthEnds() != null) {
                times.add(one.lengthEnds());
            }
            causes.endsAt(one.run(), histories).ifPresent(times::add);
        }
        for (View view : views.values()) {
            for (Access access : view.access()) {
                times.add(access.window().start());
                access.window().end().ifPresent(times::add);
                rulebook.followups().forEach(followup -> {
                    if (followup.when() instanceof When.Ending it) {
                        occasions.reachedAt(access, it).ifPresent(times::add);
                    }
                });
            }
        }
        return times.stream()
                .filter(time -> time.isAfter(after) && !time.isAfter(asOf))
                .min(Instant::compareTo);
    }

    private void instant() {
        var facts = reported.stream().filter(fact -> fact.time().equals(now)).toList();
        join(facts);
        facts.forEach(this::stop);
        Set<String> asked = new HashSet<>();
        round = 0;
        do {
            round++;
            madeNow = new ArrayList<>();
            look();
            round(round == 1 ? facts : List.of(), asked);
            own.addAll(madeNow);
        } while (!madeNow.isEmpty() || marks.hasRound(now, round + 1));
        look();
        views.values().forEach(view -> {
            view.state().open = view.open();
            view.state().everOpen.addAll(view.state().open);
        });
    }

    /** From a merge on, what several people were served, had and had set counts for each of them. */
    private void join(List<Fact> facts) {
        if (facts.stream().noneMatch(fact -> fact.happening() instanceof Happening.OfPerson)) {
            return;
        }
        var before = Histories.of(Ledger.of(
                reported.stream().filter(fact -> fact.time().isBefore(now)).toList()));
        var after = Histories.of(Ledger.of(
                reported.stream().filter(fact -> !fact.time().isAfter(now)).toList()));
        Map<String, List<PersonState>> together = new TreeMap<>(ByCodePoint.ORDER);
        for (String key : keys) {
            together.computeIfAbsent(after.personOf(key), it -> new ArrayList<>())
                    .add(states.computeIfAbsent(before.personOf(key), it -> new PersonState()));
        }
        Map<String, PersonState> next = new HashMap<>();
        for (String key : keys) {
            var person = after.personOf(key);
            var its = Objects.requireNonNull(together.get(person));
            next.put(key, PersonState.of(its));
            next.put(person, PersonState.of(its));
        }
        states.putAll(next);
    }

    private void stop(Fact fact) {
        if (fact.happening() instanceof Happening.FollowupStopped it) {
            waiting.removeIf(run -> run.person.equals(fact.subject())
                    && run.as.id().equals(it.followup())
                    && run.occasion.key().equals(it.occasion()));
        }
    }

    /** What is known now, after what was given and whose cause has ended has ended. */
    private void look() {
        boolean again;
        do {
            var known = Stream.concat(
                            reported.stream().filter(fact -> !fact.time().isAfter(now)), own.stream())
                    .toList();
            histories = Histories.of(Ledger.of(known));
            Map<String, View> seen = new LinkedHashMap<>();
            keys.stream().map(histories::personOf).distinct().forEach(person -> {
                var state = states.computeIfAbsent(person, key -> new PersonState());
                seen.put(person, new View(person, now, histories, engine.access(histories.person(person), now), state));
            });
            views = seen;
            again = false;
            for (Given one : List.copyOf(given)) {
                if (one.lengthEnds() != null && !one.lengthEnds().isAfter(now)) {
                    given.remove(one);
                    row(one.run(), one.step(), "end " + one.target().path());
                } else if (hasEnded(one.run())) {
                    end(one, own);
                    again = true;
                }
            }
        } while (again);
    }

    private boolean hasEnded(Run run) {
        return causes.hasEnded(run, view(run));
    }

    /** The person a run is about now. */
    private View view(Run run) {
        return Objects.requireNonNull(views.get(histories.personOf(run.person)));
    }

    private void end(Given one, List<Fact> to) {
        given.remove(one);
        row(one.run(), one.step(), "end " + one.target().path());
        to.add(fact(one.run(), one.id() + "|end", new Happening.GrantEnded(one.id())));
    }

    private Fact fact(Run run, String id, Happening happening) {
        return new Fact(new FactId(Followups.SOURCE, id), run.person, now, happening);
    }

    /** A row of a step that is gone through now. */
    private void does(Run run, String step, String does) {
        run.did.add(new Happening.Did(step, does));
        row(run, step, does);
    }

    private void row(Run run, String step, String does) {
        rows.add(new Followups.Row(now, run.person, run.as.id(), run.occasion.key(), step, does));
    }

    private void round(List<Fact> facts, Set<String> asked) {
        marks.of(now, round).forEach(this::stands);
        if (round == 1) {
            goOn();
        }
        var found = new ArrayList<Occasions.OfPerson>();
        facts.stream().filter(this::isFirst).forEach(fact -> found.addAll(occasions.of(fact, histories)));
        for (var one : found) {
            for (Followup followup : rulebook.followups()) {
                if (isFor(followup, one.occasion())) {
                    ask(followup, one.occasion(), one.person(), asked, false);
                }
            }
        }
        for (View view : views.values()) {
            boolean allPast = isAllPast(facts, view.person());
            for (Occasion occasion : occasions.turned(view)) {
                for (Followup followup : rulebook.followups()) {
                    if (isFor(followup, occasion)) {
                        ask(followup, occasion, view.person(), asked, allPast);
                    }
                }
            }
            for (Followup followup : rulebook.followups()) {
                if (followup.when() instanceof When.Ending it) {
                    for (Occasion occasion : occasions.ending(view, it)) {
                        if (view.state().endings.add(followup.id() + "|" + occasion.key())) {
                            ask(followup, occasion, view.person(), asked, allPast);
                        }
                    }
                }
            }
        }
    }

    /** Of reports of an account the first of a person and a system counts, also one that was brought in as long past. */
    private boolean isFirst(Fact fact) {
        return !(fact.happening() instanceof Happening.AccountMade it)
                || reported.stream()
                        .filter(other ->
                                other.happening().equals(it) && histories.isOnePerson(other.subject(), fact.subject()))
                        .findFirst()
                        .filter(fact::equals)
                        .isPresent();
    }

    /** Whether all that was reported of somebody at this instant was brought in as long past. */
    private boolean isAllPast(List<Fact> facts, String person) {
        var its = facts.stream().filter(fact -> concerns(fact, person)).toList();
        return !its.isEmpty() && its.stream().allMatch(Fact::past);
    }

    private boolean concerns(Fact fact, String person) {
        return histories.personOf(fact.subject()).equals(person)
                || (fact.happening() instanceof Happening.OfOrder it
                        && histories
                                .order(it.order())
                                .filter(order -> order.person().equals(person)
                                        || order.claims().values().stream()
                                                .anyMatch(
                                                        claim -> claim.person().equals(person)))
                                .isPresent());
    }

    /** Runs that waited until now, in the order in which they began to. */
    private void goOn() {
        for (Run run : List.copyOf(waiting)) {
            if (now.equals(run.until)) {
                waiting.remove(run);
                var from = run.waits;
                if (conditions.all(run.as.whilst(), run.occasion, view(run))) {
                    stretch(run, from);
                } else {
                    run.until = null;
                    decided(run);
                }
            }
        }
    }

    private boolean isFor(Followup followup, Occasion occasion) {
        if (Occasion.Kind.of(followup.when()) != occasion.kind()) {
            return false;
        }
        return switch (followup.when()) {
            case When.OfOrder it -> (occasion.lineOrNone() != null) == followup.eachLine() && has(it.of(), occasion);
            case When.Claimed it -> has(it.of(), occasion);
            case When.OfSubscription it -> {
                var option = histories.all().stream()
                        .flatMap(history -> history.subscriptions().stream())
                        .filter(one -> one.id().equals(occasion.subscriptionOrNone()))
                        .map(one -> one.details().chosenOption())
                        .filter(Objects::nonNull)
                        .findFirst()
                        .orElse(null);
                yield conditions.isOf(it.of(), Objects.requireNonNull(occasion.productOrNone()), option);
            }
            case When.Opened it -> Targets.of(it.targets(), rulebook).contains(occasion.targetOrNone());
            case When.Ended it -> Targets.of(it.targets(), rulebook).contains(occasion.targetOrNone());
            case When.Ending it -> Targets.of(it.targets(), rulebook).contains(occasion.targetOrNone());
            case When.Completed it ->
                occasion.targetOrNone() instanceof Target.OfCourse course
                        && it.courses().contains(course.course());
            case When.Account it -> it.systems().contains(occasion.key().substring("account/".length()));
        };
    }

    /** Whether the line that it is about, or any of its order, is of a set. */
    private boolean has(Followup.Sold set, Occasion occasion) {
        var order =
                histories.order(Objects.requireNonNull(occasion.orderOrNone())).orElseThrow();
        var line = occasion.lineOrNone();
        var about = order.details().lines().stream()
                .filter(one -> line == null || one.line().equals(line))
                .filter(one -> conditions.isOf(set, one));
        return (occasion.kind() == Occasion.Kind.REFUNDED
                        ? about.filter(one -> order.money().stream()
                                .filter(fact -> occasion.key()
                                        .endsWith("/refund/" + fact.id().id()))
                                .anyMatch(fact -> occasions.takesOff(order, one, fact)))
                        : about)
                .findAny()
                .isPresent();
    }

    private void ask(Followup followup, Occasion occasion, String person, Set<String> asked, boolean allPast) {
        var view = Objects.requireNonNull(views.get(person));
        var state = view.state();
        if (!asked.add(person + "|" + followup.id() + "|" + occasion.key())
                || allPast
                || !followup.on()
                || followup.since().filter(now::isBefore).isPresent()
                || marks.know(group(person), followup.id(), occasion.key())
                || isServed(followup, occasion, state)) {
            return;
        }
        var as = row(followup, occasion);
        if (as.isEmpty() || !conditions.all(followup.only(), occasion, view)) {
            return;
        }
        state.served.add(served(followup, occasion));
        stretch(new Run(as.get(), person, occasion), List.of());
    }

    private List<String> group(String person) {
        return keys.stream()
                .filter(key -> histories.personOf(key).equals(person))
                .toList();
    }

    static PersonState.Served served(Followup followup, Occasion occasion) {
        return new PersonState.Served(
                followup.id(),
                occasion.key(),
                occasion.orderOrNone(),
                occasion.thing().orElse(null));
    }

    private static boolean isServed(Followup followup, Occasion occasion, PersonState state) {
        var once = followup.once();
        var its = state.served.stream().filter(one -> one.followup().equals(followup.id()));
        boolean byHand = (once == Once.PERSON && state.adopted.contains(followup.id()))
                || (once == Once.THING
                        && occasion.thing()
                                .filter(thing -> state.adopted.contains(followup.id() + "|" + thing))
                                .isPresent());
        return byHand
                || switch (once) {
                    case ALWAYS -> its.anyMatch(one -> one.occasion().equals(occasion.key()));
                    case ORDER -> its.anyMatch(one -> Objects.equals(one.order(), occasion.orderOrNone()));
                    case THING ->
                        its.anyMatch(one ->
                                Objects.equals(one.thing(), occasion.thing().orElse(null)));
                    case PERSON -> its.findAny().isPresent();
                };
    }

    /** The follow-up with the row for the thing; nothing where it has rows and none for it. */
    private Optional<Followup> row(Followup followup, Occasion occasion) {
        if (followup.rows().isEmpty()) {
            return Optional.of(followup);
        }
        return followup.rows().stream()
                .filter(row -> row.product() != null
                        ? row.product().equals(occasion.productOrNone())
                        : Targets.of(List.of(Objects.requireNonNull(row.target())), rulebook)
                                .contains(occasion.targetOrNone()))
                .findFirst()
                .map(followup::with);
    }

    /** From the start, or from behind a step, to the next wait or the end. */
    private void stretch(Run run, List<String> from) {
        steps(run, run.as.steps(), "", from);
        if (run.until != null) {
            waiting.add(run);
        }
        decided(run);
    }

    /** What was decided stands from now on. */
    private void decided(Run run) {
        run.stretches++;
        decided.add(fact(
                run,
                run.id() + "|" + run.stretches,
                new FollowupWent(
                        run.as.id(),
                        run.occasion.key(),
                        round,
                        run.did,
                        run.until == null ? null : String.join(".", run.waits),
                        run.until,
                        run.stretches == 1 ? run.as : null,
                        false)));
        run.did = new ArrayList<>();
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
        var view = view(run);
        switch (step) {
            case Step.Give it -> {
                if (!hasEnded(run)) {
                    Targets.of(it.to(), rulebook).forEach(target -> give(run, place, target, it));
                }
            }
            case Step.Take it -> Targets.of(it.from(), rulebook).forEach(target -> take(run, place, target, view));
            case Step.SetField it -> {
                var value = texts.fill(it.value(), run, view);
                does(run, place, "set " + it.field() + "=" + value);
                view.state().fields.put(it.field(), new PersonState.SetValue(value, now));
            }
            case Step.Write it ->
                does(run, place, "write " + texts.fill(it.subject(), run, view) + (it.code() == null ? "" : " +code"));
            case Step.Tell it -> does(run, place, "tell " + texts.fill(it.text(), run, view));
            case Step.WaitFor it -> {
                return waits(run, place, engine.calendar().plus(now, it.length()));
            }
            case Step.WaitUntil it -> {
                return waits(run, place, engine.calendar().next(now, it.at()));
            }
            case Step.If it -> {
                boolean holds = conditions.all(it.of(), run.occasion, view);
                return steps(
                        run, holds ? it.then() : it.otherwise(), place + (holds ? ".then." : ".otherwise."), List.of());
            }
            case Step.Stop _ -> {
                return Way.STOPS;
            }
        }
        return Way.ON;
    }

    private static Way waits(Run run, String place, Instant until) {
        run.waits = parts(place);
        run.until = until;
        return Way.STOPS;
    }

    private void give(Run run, String place, Target target, Step.Give step) {
        does(run, place, "give " + target.path());
        var lengthEnds = step.length() == null ? null : engine.calendar().plus(now, step.length());
        var one = new Given(run, place, target, lengthEnds);
        given.add(one);
        madeNow.add(fact(
                run,
                one.id(),
                new Happening.GrantGiven(one.id(), List.of(Destination.to(target)), step.length(), run.as.title())));
    }

    private void take(Run run, String place, Target target, View view) {
        does(run, place, "take " + target.path());
        for (Given one : List.copyOf(given)) {
            if (one.target().equals(target)
                    && histories.personOf(one.run().person).equals(view.person())) {
                end(one, madeNow);
            }
        }
        if (target instanceof Target.OfTag it && isOn(it.tag(), view)) {
            madeNow.add(fact(
                    run, run.id() + "|" + place + "|" + target.path() + "|off", new Happening.TagRemoved(it.tag())));
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
    private void stands(Fact mark) {
        var went = (FollowupWent) mark.happening();
        var as = marks.as(mark.subject(), went);
        if (as == null) {
            return;
        }
        var occasion = Occasions.read(as, went.occasion(), mark.time(), histories);
        var run = marks.run(mark.subject(), went, () -> new Run(as, mark.subject(), occasion));
        for (Happening.Did did : went.did()) {
            stands(run, did.step(), did.does());
        }
        run.did = new ArrayList<>();
        run.stretches++;
        run.until = null;
        if (went.waits() != null && went.until() != null && marks.isLast(mark)) {
            waits(run, went.waits(), went.until());
            if (run.until != null && run.until.isAfter(now)) {
                waiting.add(run);
            }
        }
    }

    private void stands(Run run, String place, String does) {
        int space = does.indexOf(' ');
        var what = does.substring(0, Math.max(0, space));
        var about = does.substring(space + 1);
        var view = view(run);
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
                row(run, place, does);
                view.state()
                        .fields
                        .put(about.substring(0, equals), new PersonState.SetValue(about.substring(equals + 1), now));
            }
            default -> row(run, place, does);
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
