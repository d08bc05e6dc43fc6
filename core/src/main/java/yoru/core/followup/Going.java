package yoru.core.followup;

import java.time.Instant;
import java.util.ArrayList;
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
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.access.Engine;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Once;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** Goes through the instants of people who belong together, once. */
final class Going {

    private final Engine engine;
    private final Rulebook rulebook;
    private final Conditions conditions;
    private final Occasions occasions;
    private final Causes causes;
    private final Steps steps;
    private final Instant asOf;

    private final Ledger ledger;
    /** What others reported, in folding order. */
    private final List<Fact> reported;
    /** Whether anything is given as long as something else is paid for. */
    private final boolean paidFor;

    private final Marks marks;
    private final Watched watched;
    /** When something is reported or was decided, in time order; those from {@code following} on are to come. */
    private final List<Instant> times;

    private int following;

    private final Set<String> keys;
    private final Map<String, PersonState> states = new HashMap<>();
    private final Book book = new Book();
    /** How what is watched stands for each person. */
    private final Map<String, Standing> standings = new HashMap<>();
    /** How many of what others reported is known at the instant at hand. */
    private int known;

    private int folded;
    private int foldedOwn;

    Going(Engine engine, Wording wording, Watched watched, List<Fact> facts, Instant asOf) {
        this.engine = engine;
        this.rulebook = engine.index().rulebook();
        this.conditions = new Conditions(engine);
        this.occasions = new Occasions(engine);
        this.causes = new Causes(engine, conditions);
        this.steps = new Steps(engine, wording, conditions, causes, book);
        this.asOf = asOf;
        this.ledger = Ledger.some(facts.stream()
                .filter(fact -> !Followups.isOwn(fact) || fact.happening() instanceof Happening.FollowupStopped)
                .toList());
        this.reported = ledger.facts();
        this.paidFor = reported.stream()
                .anyMatch(fact -> fact.happening() instanceof Happening.GrantGiven it
                        && it.follows().isPresent());
        this.marks = new Marks(facts);
        this.watched = watched.with(marks.served(), engine);
        this.times = Stream.concat(reported.stream(), marks.facts().stream())
                .map(Fact::time)
                .distinct()
                .sorted()
                .toList();
        this.keys = Stream.concat(reported.stream(), marks.facts().stream())
                .map(Fact::subject)
                .collect(Collectors.toCollection(() -> new TreeSet<>(ByCodePoint.ORDER)));
        if (!marks.isEmpty()) {
            var all = Histories.of(ledger);
            keys.forEach(key -> states.put(key, marks.served(key, all)));
        }
    }

    Followups.Done done() {
        var next = next(Instant.MIN);
        while (next.isPresent() && !next.get().isAfter(asOf)) {
            book.now = next.get();
            instant();
            next = next(book.now);
        }
        Map<String, Instant> due = new HashMap<>();
        next.ifPresent(time -> keys.forEach(key -> due.put(key, time)));
        return new Followups.Done(book.rows, book.own, book.decided, book.asked, due);
    }

    /** The first instant after another at which anything can become due. */
    private Optional<Instant> next(Instant after) {
        while (following < times.size() && !times.get(following).isAfter(after)) {
            following++;
        }
        var first = new Earliest(after);
        if (following < times.size()) {
            first.with(times.get(following));
        }
        book.waiting.forEach(run -> first.with(Objects.requireNonNull(run.until)));
        for (Given one : book.given) {
            if (one.lengthEnds() != null) {
                first.with(one.lengthEnds());
            }
            causes.endsAt(one.run(), book.histories).ifPresent(first::with);
        }
        for (View view : watched.isEmpty() ? List.<View>of() : book.views.values()) {
            view.standing().until().ifPresent(first::with);
        }
        return Optional.ofNullable(first.orNone());
    }

    private void instant() {
        int from = known;
        while (known < reported.size() && !reported.get(known).time().isAfter(book.now)) {
            known++;
        }
        var facts = reported.subList(from, known);
        join(facts);
        facts.forEach(this::stop);
        Set<RunKey> asked = new HashSet<>();
        book.round = 0;
        do {
            book.round++;
            book.made = new ArrayList<>();
            look();
            round(book.round == 1 ? facts : List.of(), asked);
            book.own.addAll(book.made);
        } while (!book.made.isEmpty() || marks.hasRound(book.now, book.round + 1));
        // in its last round nothing was made: what was seen at its beginning is how it stands
        if (watched.isEmpty()) {
            return;
        }
        book.views.values().forEach(view -> {
            var open = view.standing().open();
            if (!open.equals(view.state().open)) {
                view.state().open = open;
                view.state().everOpen.addAll(open);
            }
        });
    }

    /** From a merge on, what several people were served, had and had set counts for each of them. */
    private void join(List<Fact> facts) {
        if (facts.stream().noneMatch(fact -> fact.happening() instanceof Happening.OfPerson)) {
            return;
        }
        var before = Histories.of(Ledger.of(
                reported.stream().filter(fact -> fact.time().isBefore(book.now)).toList()));
        var after = Histories.of(Ledger.of(
                reported.stream().filter(fact -> !fact.time().isAfter(book.now)).toList()));
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
        if (Followups.isOwn(fact) && fact.happening() instanceof Happening.FollowupStopped it) {
            book.waiting.removeIf(run -> run.person.equals(fact.subject())
                    && run.as.id().equals(it.followup())
                    && run.occasion.key().equals(it.occasion()));
        }
    }

    /** Folded anew only where something has come in since. */
    private Histories known() {
        if (known == folded && book.own.size() == foldedOwn) {
            return book.histories;
        }
        var histories = Histories.of(
                book.own.isEmpty()
                        ? ledger.first(known)
                        : Ledger.of(Stream.concat(reported.subList(0, known).stream(), book.own.stream())
                                .toList()));
        if (paidFor
                || matters(reported.subList(folded, known), histories)
                || matters(book.own.subList(foldedOwn, book.own.size()), histories)) {
            standings.clear();
        }
        folded = known;
        foldedOwn = book.own.size();
        return histories;
    }

    private boolean matters(List<Fact> more, Histories histories) {
        for (Fact fact : more) {
            if (watched.matters(fact, histories)) {
                return true;
            }
        }
        return false;
    }

    /** What is known now, after what was given and whose cause has ended has ended. */
    private void look() {
        boolean again;
        do {
            var histories = known();
            var now = book.now;
            book.histories = histories;
            Map<String, View> views = new LinkedHashMap<>();
            keys.stream().map(book.histories::personOf).distinct().forEach(person -> {
                var state = states.computeIfAbsent(person, key -> new PersonState());
                views.put(
                        person,
                        new View(
                                person,
                                now,
                                histories,
                                state,
                                watched,
                                standing(person, histories),
                                () -> engine.access(histories.person(person), now)));
            });
            book.views = views;
            again = false;
            for (Given one : List.copyOf(book.given)) {
                if (one.lengthEnds() != null && !one.lengthEnds().isAfter(book.now)) {
                    book.over(one);
                } else if (causes.hasEnded(one.run(), book.view(one.run()))) {
                    book.end(one, book.own);
                    again = true;
                }
            }
        } while (again);
    }

    private Standing standing(String person, Histories histories) {
        return standings.compute(
                person,
                (key, standing) -> standing == null
                        ? new Standing(watched, watched.access(histories.person(key)), book.now)
                        : standing.at(book.now));
    }

    private void round(List<Fact> facts, Set<RunKey> asked) {
        marks.of(book.now, book.round).forEach(mark -> steps.stands(mark, marks));
        if (book.round == 1) {
            goOn();
        }
        var found = new ArrayList<Occasions.OfPerson>();
        for (Fact fact : facts) {
            if (isFirst(fact)) {
                found.addAll(occasions.of(fact, book.histories));
            }
        }
        for (var one : found) {
            for (Followup followup : watched.waitingFor(one.occasion().kind())) {
                if (isFor(followup, one.occasion())) {
                    ask(followup, one.occasion(), one.person(), asked, false);
                }
            }
        }
        for (View view : watched.isEmpty() ? List.<View>of() : book.views.values()) {
            var turned = occasions.turned(view);
            boolean allPast = isAllPast(facts, view.person());
            for (Occasion occasion : turned) {
                for (Followup followup : watched.waitingFor(occasion.kind())) {
                    if (isFor(followup, occasion)) {
                        ask(followup, occasion, view.person(), asked, allPast);
                    }
                }
            }
            for (var it : watched.endings()) {
                var followup = it.followup();
                for (Occasion occasion : occasions.ending(view, watched, it)) {
                    if (view.state().endings.add(followup.id() + "|" + occasion.key())) {
                        ask(followup, occasion, view.person(), asked, allPast);
                    }
                }
            }
        }
    }

    /** Of reports of an account the first of a person and a system counts, also one that was brought in as long past. */
    private boolean isFirst(Fact fact) {
        return !(fact.happening() instanceof Happening.AccountMade it)
                || reported.stream()
                        .filter(other -> other.happening().equals(it)
                                && book.histories.isOnePerson(other.subject(), fact.subject()))
                        .findFirst()
                        .filter(fact::equals)
                        .isPresent();
    }

    /** Whether all that was reported of somebody at this instant was brought in as long past. */
    private boolean isAllPast(List<Fact> facts, String person) {
        if (facts.stream().noneMatch(Fact::past)) {
            return false;
        }
        var its = facts.stream().filter(fact -> concerns(fact, person)).toList();
        return !its.isEmpty() && its.stream().allMatch(Fact::past);
    }

    private boolean concerns(Fact fact, String person) {
        return book.histories.personOf(fact.subject()).equals(person)
                || (fact.happening() instanceof Happening.OfOrder it
                        && book.histories
                                .order(it.order())
                                .filter(order -> order.person().equals(person)
                                        || order.claims().values().stream()
                                                .anyMatch(
                                                        claim -> claim.person().equals(person)))
                                .isPresent());
    }

    /** Runs that waited until now, in the order in which they began to. */
    private void goOn() {
        for (Run run : List.copyOf(book.waiting)) {
            if (book.now.equals(run.until)) {
                book.waiting.remove(run);
                var from = run.waits;
                if (run.as.whilst().isEmpty() || steps.asks(run, "while", run.as.whilst(), book.view(run))) {
                    steps.stretch(run, from);
                } else {
                    run.until = null;
                    steps.decided(run);
                }
            }
        }
    }

    /** Whether a follow-up that waits for occasions of this kind waits for this one. */
    private boolean isFor(Followup followup, Occasion occasion) {
        return switch (followup.when()) {
            case When.OfOrder it -> (occasion.lineOrNone() != null) == followup.eachLine() && has(it.of(), occasion);
            case When.Claimed it -> has(it.of(), occasion);
            case When.OfSubscription it -> {
                var option = Optional.ofNullable(occasion.subscriptionOrNone())
                        .flatMap(book.histories::subscription)
                        .flatMap(one -> one.details().option())
                        .orElse(null);
                yield conditions.isOf(it.of(), Objects.requireNonNull(occasion.productOrNone()), option);
            }
            case When.Opened _, When.Ended _, When.Ending _ ->
                watched.awaited(followup).contains(Objects.requireNonNull(occasion.targetOrNone()));
            case When.Completed it ->
                occasion.targetOrNone() instanceof Target.OfCourse course
                        && it.courses().contains(course.course());
            case When.Account it -> it.systems().contains(occasion.key().substring("account/".length()));
        };
    }

    /** Whether the line that it is about, or any of its order, is of a set. */
    private boolean has(Followup.Sold set, Occasion occasion) {
        var order = book.histories
                .order(Objects.requireNonNull(occasion.orderOrNone()))
                .orElseThrow();
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

    private void ask(Followup followup, Occasion occasion, String person, Set<RunKey> asked, boolean allPast) {
        if (!asked.add(new RunKey(person, followup.id(), occasion.key()))) {
            return;
        }
        var view = Objects.requireNonNull(book.views.get(person));
        var as = row(followup, occasion);
        var only = conditions.ask("only", followup.only(), occasion, view);
        var outcome = outcome(followup, occasion, view, allPast, as.isPresent(), only.holds());
        book.asked.add(new Followups.Asked(book.now, person, followup.id(), occasion.key(), outcome, only));
        if (outcome == Followups.Outcome.SERVED) {
            view.state().served.add(served(followup, occasion));
            var run = new Run(as.orElseThrow(), person, occasion);
            if (!followup.only().isEmpty()) {
                run.questions.add(only);
            }
            steps.stretch(run, List.of());
        }
    }

    private Followups.Outcome outcome(
            Followup followup, Occasion occasion, View view, boolean allPast, boolean hasRow, boolean isSo) {
        if (!marks.areNone() && marks.know(group(view.person()), followup.id(), occasion.key())) {
            return Followups.Outcome.STANDS;
        }
        if (allPast) {
            return Followups.Outcome.LONG_PAST;
        }
        if (!followup.on()) {
            return Followups.Outcome.OFF;
        }
        if (followup.since().filter(book.now::isBefore).isPresent()) {
            return Followups.Outcome.BEFORE_SINCE;
        }
        if (isServed(followup, occasion, view.state())) {
            return Followups.Outcome.SERVED_BEFORE;
        }
        if (!hasRow) {
            return Followups.Outcome.NO_ROW;
        }
        return isSo ? Followups.Outcome.SERVED : Followups.Outcome.NOT_SO;
    }

    private List<String> group(String person) {
        return keys.stream()
                .filter(key -> book.histories.personOf(key).equals(person))
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
}
