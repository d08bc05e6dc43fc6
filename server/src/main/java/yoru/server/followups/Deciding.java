package yoru.server.followups;

import java.time.Instant;
import java.time.LocalDate;
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
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.followup.FollowupWords;
import yoru.core.followup.Followups;
import yoru.core.followup.Followups.Decided;
import yoru.core.followup.Kept;
import yoru.core.followup.RunKey;
import yoru.core.followup.Wording;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Code;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.systems.Landscape;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.Origin;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.policies.SchoolPolicies;
import yoru.server.rulebooks.Reach;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.rulebooks.Rulebooks.Change;
import yoru.server.rulebooks.Rulebooks.InForce;

/**
 * Decides what follow-ups do, and keeps it: in the ledger, where it stands from then on, and beside it, where it is carried
 * out. Up to the moment of a publish the rulebook before it decides.
 */
@Service
public class Deciding {

    private static final Origin BY_FOLLOWUPS = new Origin.OfYoru("follow-ups");

    private final FactKeeper keeper;
    private final Register register;
    private final Rulebooks rulebooks;
    private final SchoolPolicies policies;
    private final FollowupRuns runs;
    private final FollowupSteps steps;
    private final DecidedUnderTable under;

    Deciding(
            FactKeeper keeper,
            Register register,
            Rulebooks rulebooks,
            SchoolPolicies policies,
            FollowupRuns runs,
            FollowupSteps steps,
            DecidedUnderTable under) {
        this.keeper = keeper;
        this.register = register;
        this.rulebooks = rulebooks;
        this.policies = policies;
        this.runs = runs;
        this.steps = steps;
        this.under = under;
    }

    /**
     * What was decided.
     *
     * @param ledger with what follow-ups made, without what is not to be told to any system yet
     * @param next when something is due next, by person
     * @param written what letters are written about, by person
     */
    public record Decision(Ledger ledger, Map<String, Instant> next, Map<String, Set<About>> written) {}

    /**
     * What a letter is about.
     *
     * @param thing the path of a product or a target
     * @param order the order in which it was bought; none = it is about none
     */
    public record About(String thing, @Nullable String order) {}

    /**
     * Decides all that is due of some people by now.
     *
     * @param people locked until the transaction ends
     * @param facts all that can matter for them
     */
    @Transactional
    public Decision decide(Collection<Person> people, Ledger facts, InForce current, Landscape landscape, Instant now) {
        var changes = rulebooks.changesUntil(current.number());
        if (changes.stream().noneMatch(Change::followsUp)) {
            return new Decision(facts, Map.of(), Map.of());
        }
        var those = people.stream().filter(person -> person.erasure().isEmpty()).toList();
        var wording = wording(facts, landscape);
        var known = before(those, facts, changes, current, wording);
        var work = new Work(those, current, wording, changes, now);
        var done = work.until(known, now);
        return new Decision(visible(done.known), done.next, done.written);
    }

    private Wording wording(Ledger facts, Landscape landscape) {
        var names = register.people(facts.facts().stream().map(Fact::subject).collect(Collectors.toSet()));
        return new Wording(
                key -> Optional.ofNullable(names.get(key)).map(Person::name).orElse(key), landscape);
    }

    /** What the rulebooks decided that were in force before, for those for whom it was not decided yet. */
    private Ledger before(List<Person> people, Ledger facts, List<Change> changes, InForce current, Wording wording) {
        var ids = people.stream().map(Person::id).toList();
        var decided =
                under.findByPersonIdIn(ids).stream().collect(Collectors.toMap(it -> it.personId, it -> it.rulebook));
        var behind = people.stream()
                .filter(person -> decided.getOrDefault(person.id(), 0) < current.number())
                .toList();
        if (behind.isEmpty()) {
            return facts;
        }
        var histories = Histories.of(facts);
        var known = facts;
        for (Change change : changes) {
            // whom it cannot concern the next that can decides for just the same, so that a long past costs no look at
            // each publish
            var those = behind.stream()
                    .filter(person -> decided.getOrDefault(person.id(), 0) < change.number()
                            && change.concern().isOf(histories.person(histories.personOf(person.key()))))
                    .toList();
            boolean matters = !those.isEmpty()
                    && known.facts().stream().anyMatch(fact -> !fact.time().isAfter(change.at()));
            if (matters) {
                known = atChange(those, known, change, changes, wording);
            }
        }
        under.keep(behind.stream().map(Person::id).toList(), current.number());
        return known;
    }

    /** Up to a publish the one before decides; what only the publish itself opens or ends is passed by. */
    private Ledger atChange(List<Person> people, Ledger facts, Change change, List<Change> changes, Wording wording) {
        var before = rulebooks.inForce(change.number() - 1);
        var known = facts;
        if (!before.rulebook().followups().isEmpty() || facts.facts().stream().anyMatch(Followups::isOwn)) {
            known = new Work(people, before, wording, changes, change.at()).until(known, change.at()).known;
        }
        if (!change.followsUp() || !change.movesAccess() || change.reach().counts()) {
            return known;
        }
        var after = rulebooks.inForce(change.number());
        var asBefore = before.rulebook().withFollowups(after.rulebook().followups());
        var there = starts(new Followups(asBefore), known, change.at()).keySet();
        var keys = people.stream().map(Person::key).collect(Collectors.toSet());
        var passed = starts(after.followups(), known, change.at()).entrySet().stream()
                .filter(it -> !there.contains(it.getKey())
                        && keys.contains(it.getKey().person()))
                .map(it -> passed(it.getValue()))
                .toList();
        keeper.keepComputed(BY_FOLLOWUPS, passed);
        return with(known, passed);
    }

    /** The marks with which runs would begin. */
    private static Map<RunKey, Fact> starts(Followups followups, Ledger known, Instant at) {
        Map<RunKey, Fact> starts = new LinkedHashMap<>();
        followups.until(known, at).decided().stream()
                .filter(it -> it.went().as() != null)
                .forEach(it -> starts.put(RunKey.of(it), it.mark()));
        return starts;
    }

    private static Fact passed(Fact mark) {
        var went = (Happening.FollowupWent) mark.happening();
        return new Fact(
                mark.id(),
                mark.subject(),
                mark.time(),
                new Happening.FollowupWent(
                        went.followup(), went.occasion(), went.round(), List.of(), null, null, null, true));
    }

    private static Ledger with(Ledger known, List<Fact> more) {
        return more.isEmpty()
                ? known
                : Ledger.of(Stream.concat(known.facts().stream(), more.stream()).toList());
    }

    /** Without what steps give and take that have not begun. */
    private Ledger visible(Ledger known) {
        var subjects = known.facts().stream()
                .filter(Followups::isOwn)
                .map(Fact::subject)
                .collect(Collectors.toSet());
        var due = subjects.isEmpty()
                ? List.<FollowupStep>of()
                : steps.due(subjects, StepState.DUE).stream()
                        .filter(step -> step.kind().movesAccess())
                        .toList();
        if (due.isEmpty()) {
            return known;
        }
        var of = runs.findAllById(due.stream().map(step -> step.runId).toList()).stream()
                .collect(Collectors.toMap(FollowupRun::id, run -> run));
        Set<String> hidden = new HashSet<>();
        var takes = new ArrayList<Predicate<Fact>>();
        for (FollowupStep step : due) {
            var run = Objects.requireNonNull(of.get(step.runId));
            hidden.add(run.key().given(step.step, step.object()));
            hidden.add(run.key().takenOff(step.step, step.object()));
            if (step.kind() == FollowupStep.Does.TAKE) {
                takes.add(fact -> fact.happening() instanceof Happening.GrantEnded it
                        && fact.time().equals(step.dueAt)
                        && it.grant().endsWith("|" + step.object()));
            }
        }
        return Ledger.of(known.facts().stream()
                .filter(fact -> !Followups.isOwn(fact)
                        || (!hidden.contains(fact.id().id()) && takes.stream().noneMatch(take -> take.test(fact))))
                .toList());
    }

    /** Deciding for some people by one rulebook. */
    private final class Work {

        private final Map<String, Person> people = new TreeMap<>();
        private final InForce rulebook;
        private final Wording wording;
        private final List<Change> changes;
        private final Instant now;
        private final FollowupWords words;
        private final Instant stillWrites;
        private final Map<String, Set<About>> written = new HashMap<>();

        Work(Collection<Person> those, InForce rulebook, Wording wording, List<Change> changes, Instant now) {
            those.forEach(person -> people.put(person.key(), person));
            this.rulebook = rulebook;
            this.wording = wording;
            this.changes = changes;
            this.now = now;
            this.words = new FollowupWords(rulebook.rulebook());
            this.stillWrites =
                    policies.inForce().stillWrites(now, rulebook.engine().calendar());
        }

        private record Outcome(Ledger known, Map<String, Instant> next, Map<String, Set<About>> written) {}

        Outcome until(Ledger known, Instant asOf) {
            var done = rulebook.followups().saying(wording).until(known, asOf);
            var lacking =
                    Kept.lacking(known, done, people.keySet(), rulebook.engine().calendar(), now);
            keeper.keepComputed(BY_FOLLOWUPS, lacking);
            keep(done.decided().stream()
                    .filter(it -> people.containsKey(it.mark().subject()))
                    .toList());
            return new Outcome(with(known, lacking), done.next(), written);
        }

        private void keep(List<Decided> decided) {
            if (decided.isEmpty()) {
                return;
            }
            Map<RunKey, FollowupRun> known = new HashMap<>();
            runs.findBySubjectIn(decided.stream().map(it -> it.mark().subject()).collect(Collectors.toSet()))
                    .forEach(run -> known.put(run.key(), run));
            var open = steps
                    .findByRunIdInOrderByRunIdAscStretchAscNumberAsc(
                            known.values().stream().map(FollowupRun::id).toList())
                    .stream()
                    .filter(FollowupStep::isOpen)
                    .map(step -> step.runId)
                    .collect(Collectors.toSet());
            for (Decided one : decided) {
                var run = known.computeIfAbsent(RunKey.of(one), key -> begin(one));
                run.stretches++;
                run.waitsUntil = one.went().until();
                run.questions = Stream.concat(
                                run.questions.stream(), one.questions().stream().map(this::asked))
                        .toList();
                runs.save(run);
                if (keepSteps(run, one, !open.contains(run.id()))) {
                    open.add(run.id());
                }
            }
        }

        private FollowupRun begin(Decided one) {
            var as = one.went().as();
            var person = Objects.requireNonNull(people.get(one.mark().subject()));
            var run = new FollowupRun(person.id(), one, as == null ? one.went().followup() : as.title(), now);
            run.silence = silence(one);
            return runs.save(run);
        }

        private @Nullable Silence silence(Decided one) {
            for (Change change : changes.reversed()) {
                var past = change.reach().past().stream()
                        .filter(it -> it.followup().equals(one.went().followup()))
                        .findFirst();
                if (past.isPresent() && one.moment().isBefore(change.at())) {
                    return past.filter(Reach.Served::letters).isPresent() ? null : Silence.WITHOUT_LETTERS;
                }
            }
            return one.moment().isBefore(stillWrites) ? Silence.LATE : null;
        }

        private FollowupRun.Asked asked(Followups.Question question) {
            return new FollowupRun.Asked(
                    question.step(),
                    question.holds(),
                    question.answers().stream().map(words::answer).toList());
        }

        /** @param first whether nothing of the run is under way: what it gives first is told at once */
        private boolean keepSteps(FollowupRun run, Decided one, boolean first) {
            var to = Optional.ofNullable(people.get(one.person()))
                    .or(() -> register.person(one.person()))
                    .map(Person::id)
                    .orElse(run.personId);
            var said = one.said().stream().collect(Collectors.toMap(Followups.Said::step, it -> it, (a, b) -> a));
            int number = 0;
            var made = new ArrayList<FollowupStep>();
            for (Happening.Did did : one.went().did()) {
                var step = new FollowupStep(
                        run,
                        to,
                        run.stretches,
                        ++number,
                        did.step(),
                        did.does(),
                        one.mark().time());
                Optional.ofNullable(said.get(did.step())).ifPresent(it -> {
                    step.said = new FollowupStep.Words(it.subject(), it.text(), terms(it.code()));
                    step.unasked = !one.isAnswered();
                    if (run.silence == null && step.kind() == FollowupStep.Does.WRITE) {
                        writes(one);
                    }
                });
                made.add(step);
            }
            if (first && !made.isEmpty() && made.getFirst().kind().movesAccess()) {
                var at = made.getFirst().step;
                made.stream().filter(step -> step.step.equals(at)).forEach(step -> step.begin(StepState.BEGUN, now));
            }
            steps.saveAll(made);
            return !made.isEmpty();
        }

        private void writes(Decided one) {
            if (one.thingOrNone() != null) {
                written.computeIfAbsent(one.person(), key -> new HashSet<>())
                        .add(new About(one.thingOrNone(), one.orderOrNone()));
            }
        }

        private @Nullable CodeTerms terms(@Nullable Code code) {
            if (code == null) {
                return null;
            }
            return new CodeTerms(
                    code.percent() == null ? null : code.percent().toPlainString(),
                    code.amount() == null ? null : code.amount().toPlainString(),
                    rulebook.rulebook().school().currency().getCurrencyCode(),
                    products(code.of(), rulebook.rulebook()),
                    code.expires() == null
                            ? null
                            : LocalDate.ofInstant(
                                    rulebook.engine().calendar().plus(now, code.expires()),
                                    rulebook.rulebook().school().zone()),
                    code.uses());
        }

        private static @Nullable List<String> products(Followup.@Nullable Sold set, Rulebook rulebook) {
            if (set == null || set.isAnything()) {
                return null;
            }
            return set.in(rulebook.products()).stream().map(Product::id).toList();
        }
    }
}
