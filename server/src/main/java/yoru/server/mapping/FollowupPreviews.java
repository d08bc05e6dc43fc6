package yoru.server.mapping;

import java.time.Clock;
import java.time.Duration;
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
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.followup.FollowupWords;
import yoru.core.followup.Followups.Answer;
import yoru.core.followup.Followups.Asked;
import yoru.core.followup.Followups.Decided;
import yoru.core.followup.Followups.Outcome;
import yoru.core.followup.Followups.Question;
import yoru.core.followup.Preview;
import yoru.core.followup.Wording;
import yoru.core.impact.Concern;
import yoru.core.ledger.Happening.Did;
import yoru.core.rulebook.Rulebook;
import yoru.server.followups.TrialLetters;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/** What a drafted follow-up would have done for real people. */
@Service
class FollowupPreviews {

    private static final Duration LATELY = Duration.ofDays(90);
    private static final int AT_A_TIME = 500;
    private static final int SHOWN = 40;
    private static final int NAMED = 5;
    private static final int PAST_NAMED = 100;

    private final Consequences consequences;
    private final Rulebooks rulebooks;
    private final LedgerReader ledger;
    private final Register register;
    private final Landscapes landscapes;
    private final TrialLetters letters;
    private final Clock clock;

    FollowupPreviews(
            Consequences consequences,
            Rulebooks rulebooks,
            LedgerReader ledger,
            Register register,
            Landscapes landscapes,
            TrialLetters letters,
            Clock clock) {
        this.consequences = consequences;
        this.rulebooks = rulebooks;
        this.ledger = ledger;
        this.register = register;
        this.landscapes = landscapes;
        this.letters = letters;
        this.clock = clock;
    }

    /**
     * What it would have done in the last 90 days.
     *
     * @param since when they began
     * @param people whom it would have served
     * @param times how often
     * @param steps what would have been done, each with for how many people
     * @param served the latest of them
     * @param passed for whom it would have done nothing, by why
     * @param past whom it would serve at once if what was before counted, ever
     */
    record FollowupPreview(
            Instant since,
            int people,
            int times,
            List<StepFigure> steps,
            List<RunPreview> served,
            List<PassedOver> passed,
            PastRuns past) {}

    /** @param kind {@code give}, {@code take}, {@code set}, {@code write} or {@code tell} */
    record StepFigure(String step, String kind, int people, int times) {}

    /** @param some of them by name, the first hundred */
    record PastRuns(int people, int times, List<PersonNamed> some) {}

    record PersonNamed(@Nullable Long person, String name, String address) {}

    /**
     * A run there would have been.
     *
     * @param waitsUntil none = it is done
     */
    record RunPreview(
            PersonNamed who,
            String occasion,
            String about,
            @Nullable String order,
            Instant moment,
            List<QuestionPreview> questions,
            List<StepPreview> does,
            @Nullable Instant waitsUntil) {}

    /** @param step {@code only}, {@code while}, or the step at which it was asked */
    record QuestionPreview(String step, boolean holds, List<String> answers) {}

    /**
     * What it would have done.
     *
     * @param subject of a letter, as it would read
     * @param text of a letter or a message to the team, as it would read
     * @param html of a letter, as it would look
     * @param unasked whether it is a letter that answers nothing they did, and so says how to stop such letters
     */
    record StepPreview(
            Instant at,
            String step,
            String does,
            @Nullable String subject,
            @Nullable String text,
            @Nullable String html,
            boolean unasked) {}

    /**
     * Whom it would have left alone.
     *
     * @param why in words
     * @param people how many
     * @param some the latest of them
     */
    record PassedOver(Outcome outcome, String why, int people, List<PersonNamed> some) {}

    /** What it would have done for one person, ever: the latest first. */
    record FollowupForOne(PersonNamed who, List<RunPreview> served, List<PassedOn> passed) {}

    record PassedOn(Instant at, String occasion, Outcome outcome, List<String> answers) {}

    @Transactional(readOnly = true)
    FollowupPreview lately(Wanted wanted, String followup) {
        var rulebook = rulebook(wanted, followup);
        var now = clock.instant();
        var since = now.minus(LATELY);
        var keys = ledger.concernedBy(Concern.EVERYBODY);
        var collected = new Collected(since);
        for (int from = 0; from < keys.size(); from += AT_A_TIME) {
            var some = keys.subList(from, Math.min(keys.size(), from + AT_A_TIME));
            var known = ledger.concerning(some).asOf(now);
            var preview = new Preview(rulebook, followup, wording(some), now);
            var outcomes = preview.of(known);
            collected.add(outcomes, outcomes.runs().isEmpty() ? List.of() : preview.atOnce(known), Set.copyOf(some));
        }
        return collected.shown(new Words(rulebook));
    }

    @Transactional(readOnly = true)
    FollowupForOne forOne(Wanted wanted, String followup, long id) {
        var rulebook = rulebook(wanted, followup);
        var now = clock.instant();
        var person =
                register.person(id).orElseThrow(() -> ProblemException.notFound("Nobody has the number " + id + "."));
        var outcomes = new Preview(rulebook, followup, wording(List.of(person.key())), now)
                .of(ledger.concerning(person.key()).asOf(now));
        var words = new Words(rulebook);
        return new FollowupForOne(
                somebody(person.key(), Map.of(person.key(), person)),
                outcomes.runs().stream()
                        .filter(run -> run.first().person().equals(person.key()))
                        .map(run -> words.served(run, Map.of(person.key(), person)))
                        .toList()
                        .reversed(),
                outcomes.passed().stream()
                        .filter(it -> it.person().equals(person.key()))
                        .map(words::passed)
                        .toList()
                        .reversed());
    }

    /**
     * Sends a letter that it would have written to somebody, to whoever is writing it.
     *
     * @return by which system
     */
    String toMe(Wanted wanted, String followup, long person, String step, String me) {
        var letter = forOne(wanted, followup, person).served().stream()
                .flatMap(run -> run.does().stream())
                .filter(it -> it.step().equals(step) && it.subject() != null)
                .findFirst()
                .orElseThrow(() -> ProblemException.notFound("It would have written no such letter to them."));
        return letters.send(me, Objects.requireNonNull(letter.subject()), Objects.requireNonNull(letter.text()));
    }

    private Rulebook rulebook(Wanted wanted, String followup) {
        var rulebook = consequences.rulebook(rulebooks.overTodaysCatalogue(), wanted);
        if (rulebook.followups().stream().noneMatch(it -> it.id().equals(followup))) {
            throw ProblemException.notFound("The draft has no follow-up " + followup + ".");
        }
        return rulebook;
    }

    private Wording wording(Collection<String> keys) {
        var people = register.people(keys);
        return new Wording(
                key -> Optional.ofNullable(people.get(key)).map(Person::name).orElse(key), landscapes.current());
    }

    private static PersonNamed somebody(String key, Map<String, Person> people) {
        var known = people.get(key);
        return known == null ? new PersonNamed(null, key, key) : new PersonNamed(known.id(), known.name(), key);
    }

    /** What comes together over all people. */
    private final class Collected {

        private final Instant since;
        private final Set<String> served = new HashSet<>();
        private final List<Preview.Run> runs = new ArrayList<>();
        private final Map<String, Set<String>> peopleByStep = new LinkedHashMap<>();
        private final Map<String, Integer> timesByStep = new HashMap<>();
        private final List<Asked> passed = new ArrayList<>();
        private final Set<String> past = new TreeSet<>();
        private int pastTimes;

        Collected(Instant since) {
            this.since = since;
        }

        void add(Preview.Outcomes outcomes, List<Decided> atOnce, Set<String> people) {
            outcomes.runs().stream()
                    .filter(run -> people.contains(run.first().mark().subject())
                            && !run.first().moment().isBefore(since))
                    .forEach(this::add);
            outcomes.passed().stream()
                    .filter(it -> people.contains(it.person()) && !it.at().isBefore(since))
                    .forEach(passed::add);
            atOnce.stream().filter(it -> people.contains(it.mark().subject())).forEach(it -> {
                past.add(it.person());
                pastTimes++;
            });
        }

        private void add(Preview.Run run) {
            served.add(run.first().person());
            runs.add(run);
            for (Decided stretch : run.stretches()) {
                for (Did did : stretch.went().did()) {
                    var step = did.step() + " "
                            + did.does().substring(0, did.does().indexOf(' '));
                    peopleByStep.computeIfAbsent(step, key -> new TreeSet<>()).add(stretch.person());
                    timesByStep.merge(step, 1, Integer::sum);
                }
            }
        }

        FollowupPreview shown(Words words) {
            var latest = runs.stream()
                    .sorted((one, other) ->
                            other.first().moment().compareTo(one.first().moment()))
                    .limit(SHOWN)
                    .toList();
            var byWhy = new LinkedHashMap<String, List<Asked>>();
            passed.forEach(it -> byWhy.computeIfAbsent(it.outcome() + words.why(it), key -> new ArrayList<>())
                    .add(it));
            var keys = new HashSet<String>();
            latest.forEach(run -> keys.add(run.first().person()));
            byWhy.values().forEach(list -> latest(list).forEach(it -> keys.add(it.person())));
            var atOnce = past.stream().limit(PAST_NAMED).toList();
            keys.addAll(atOnce);
            var people = register.people(keys);
            return new FollowupPreview(
                    since,
                    served.size(),
                    runs.size(),
                    peopleByStep.entrySet().stream()
                            .map(it -> new StepFigure(
                                    it.getKey().substring(0, it.getKey().indexOf(' ')),
                                    it.getKey().substring(it.getKey().indexOf(' ') + 1),
                                    it.getValue().size(),
                                    timesByStep.getOrDefault(it.getKey(), 0)))
                            .toList(),
                    latest.stream().map(run -> words.served(run, people)).toList(),
                    byWhy.values().stream()
                            .map(list -> new PassedOver(
                                    list.getFirst().outcome(),
                                    words.why(list.getFirst()),
                                    (int) list.stream()
                                            .map(Asked::person)
                                            .distinct()
                                            .count(),
                                    latest(list).stream()
                                            .map(it -> somebody(it.person(), people))
                                            .distinct()
                                            .toList()))
                            .toList(),
                    new PastRuns(
                            past.size(),
                            pastTimes,
                            atOnce.stream().map(key -> somebody(key, people)).toList()));
        }

        private static List<Asked> latest(List<Asked> list) {
            return list.subList(Math.max(0, list.size() - NAMED), list.size()).reversed();
        }
    }

    /** Says it in words. */
    private final class Words {

        private final FollowupWords words;

        Words(Rulebook rulebook) {
            this.words = new FollowupWords(rulebook);
        }

        /** The conditions that did not hold; empty where it is not for a condition. */
        String why(Asked asked) {
            var only = asked.only();
            return asked.outcome() != Outcome.NOT_SO || only == null
                    ? ""
                    : only.answers().stream()
                            .filter(answer -> !answer.holds())
                            .map(answer -> words.condition(answer.condition()))
                            .collect(Collectors.joining(" and "));
        }

        PassedOn passed(Asked asked) {
            return new PassedOn(
                    asked.at(),
                    asked.occasion(),
                    asked.outcome(),
                    asked.outcome() != Outcome.NOT_SO || asked.only() == null
                            ? List.of()
                            : asked.only().answers().stream().map(words::answer).toList());
        }

        RunPreview served(Preview.Run run, Map<String, Person> people) {
            var first = run.first();
            return new RunPreview(
                    somebody(first.person(), people),
                    first.went().occasion(),
                    first.about(),
                    first.orderOrNone(),
                    first.moment(),
                    run.stretches().stream()
                            .flatMap(it -> it.questions().stream())
                            .map(this::asking)
                            .toList(),
                    run.stretches().stream().flatMap(it -> doings(it).stream()).toList(),
                    run.stretches().getLast().went().until());
        }

        private QuestionPreview asking(Question question) {
            return new QuestionPreview(
                    question.step(),
                    question.holds(),
                    question.answers().stream()
                            .map((Answer answer) -> words.answer(answer))
                            .toList());
        }

        private List<StepPreview> doings(Decided stretch) {
            var said =
                    stretch.said().stream().collect(Collectors.toMap(it -> it.step(), it -> it, (one, other) -> one));
            return stretch.went().did().stream()
                    .map(did -> {
                        var what = said.get(did.step());
                        return new StepPreview(
                                stretch.mark().time(),
                                did.step(),
                                words.done(
                                        did.does(),
                                        what == null ? null : what.subject().isEmpty() ? what.text() : what.subject()),
                                what == null || what.subject().isEmpty() ? null : what.subject(),
                                what == null ? null : what.text(),
                                what == null || what.subject().isEmpty()
                                        ? null
                                        : letters.html(what.subject(), what.text()),
                                what != null && !what.subject().isEmpty() && !stretch.isAnswered());
                    })
                    .toList();
        }
    }
}
