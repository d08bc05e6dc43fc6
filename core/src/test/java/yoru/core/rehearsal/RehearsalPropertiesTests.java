package yoru.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yoru.core.Reactions;
import yoru.core.Seeds;
import yoru.core.World;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rehearsal.Expectation.End;
import yoru.core.rehearsal.Script.Cue;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;

/** What must hold of every story, over stories, schools and follow-ups made by chance. */
class RehearsalPropertiesTests {

    private static final int RUNS = 5;
    private static final int SEEDS = Seeds.of(200);
    private static final String BARN = "barn";

    private static final Landscape LANDSCAPE = new Landscape(List.of(
            new ConnectedSystem(BARN, BARN, true, Set.of(Ability.ENROLMENT, Ability.SECTIONS), Map.of(), null, null),
            new ConnectedSystem(
                    "contacts", "contacts", true, Set.of(Ability.ACCOUNTS, Ability.TAGS), Map.of(), null, "ends"),
            new ConnectedSystem("post", "post", true, Set.of(Ability.MESSAGES), Map.of(), null, null)));

    private record Try(long seed, Rulebook rulebook, Surroundings around, Script script) {

        static Try of(long seed) {
            var book = World.of(seed).rulebook();
            return new Try(
                    seed,
                    Reactions.added(book, seed),
                    new Surroundings(
                            "School",
                            LANDSCAPE,
                            Map.of(),
                            Surroundings.Prices.UNKNOWN,
                            seed % 3 == 0,
                            true,
                            null,
                            List.of(),
                            false),
                    new Tries(seed).script());
        }

        Report report() {
            return new Rehearsal(rulebook, around).of(script);
        }

        Report with(Expectation... expected) {
            var scenes = new ArrayList<>(script.scenes());
            for (Expectation one : expected) {
                scenes.add(new Scene(
                        "steps[" + scenes.size() + "]", false, Cue.After.AT_ONCE, null, new Doing.Expects(one)));
            }
            return new Rehearsal(rulebook, around)
                    .of(new Script(script.id(), script.title(), script.starts(), script.people(), scenes));
        }
    }

    private static LongStream runs() {
        return LongStream.range(0, RUNS);
    }

    private static Stream<Try> tries(long run) {
        return LongStream.range(run * SEEDS, (run + 1) * SEEDS).mapToObj(Try::of);
    }

    private static Stream<Try> someTries(long run) {
        return tries(run).filter(one -> one.seed % 4 == 0);
    }

    /** The answer of {@code evaluate --with-followups}. */
    private static Map<String, List<Access>> evaluated(Rulebook rulebook, List<Fact> facts, Instant at) {
        var ledger = Ledger.of(facts);
        return new Engine(rulebook)
                .evaluate(new Followups(rulebook).with(ledger, at), at).access().stream()
                        .filter(one -> one.state().isOpen())
                        .collect(Collectors.groupingBy(Access::person));
    }

    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void aStoryEndsWhereEvaluateEndsOverItsFacts(long run) {
        tries(run).forEach(one -> {
            var report = one.report();
            assertThat(report.faults()).as("seed %d", one.seed).isEmpty();
            var end = report.steps().getLast();
            var open = evaluated(one.rulebook, report.facts(), end.at());
            var known = Histories.of(Ledger.of(report.facts()).asOf(end.at()));
            for (Report.Standing standing : end.people()) {
                var its = open.getOrDefault(known.personOf(standing.person()), List.of());
                assertThat(standing.open().stream().map(Report.Open::target))
                        .as("seed %d, %s", one.seed, standing.person())
                        .containsExactlyElementsOf(its.stream()
                                .filter(access -> isSaid(access, its))
                                .map(Access::target)
                                .toList());
            }
        });
    }

    /** A section that is open as long as its course is said with it. */
    private static boolean isSaid(Access access, List<Access> all) {
        return !(access.target() instanceof Target.OfSection section)
                || all.stream()
                        .filter(it -> it.target().equals(new Target.OfCourse(section.course())))
                        .noneMatch(it ->
                                it.window().end().equals(access.window().end()) && it.renews() == access.renews());
    }

    /** All that evaluate says may be expected, and is as expected; the opposite of each is not. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatEvaluateSaysIsAsExpectedAndTheOppositeIsNot(long run) {
        someTries(run).forEach(one -> {
            var report = one.report();
            var end = report.steps().getLast();
            var open = evaluated(one.rulebook, report.facts(), end.at());
            var known = Histories.of(Ledger.of(report.facts()).asOf(end.at()));
            for (String who : Tries.PEOPLE) {
                var its = open.getOrDefault(known.personOf(who), List.of());
                Map<Target, End> until = new LinkedHashMap<>();
                its.forEach(access -> until.put(
                        access.target(),
                        access.window()
                                .end()
                                .<End>map(time -> new End.AtTime(
                                        time.atZone(one.rulebook.school().zone())
                                                .toLocalDateTime()))
                                .orElseGet(End.Never::new)));
                var targets = new ArrayList<>(until.keySet());
                var closed = all(one.rulebook)
                        .filter(target -> !targets.contains(target))
                        .toList();
                var whole = targets.stream()
                        .filter(target -> !(target instanceof Target.OfSection))
                        .toList();
                var taught =
                        targets.stream().filter(isOf(Target.OfCourse.class)).toList();
                var others = closed.stream().filter(isOf(Target.OfCourse.class)).toList();
                var told = Map.of(BARN, new Expectation.Held(taught, others));
                var right = one.with(new Expectation(who, targets, closed, until, whole, List.of(), List.of(), told));
                assertThat(right.notAsExpected())
                        .as("seed %d, %s", one.seed, who)
                        .isEmpty();
                var wrong = one.with(new Expectation(
                        who,
                        closed,
                        targets,
                        Map.of(),
                        null,
                        List.of(),
                        List.of(),
                        Map.of(BARN, new Expectation.Held(others, taught))));
                assertThat(wrong.notAsExpected())
                        .as("seed %d, %s", one.seed, who)
                        .hasSize(closed.size() + targets.size() + others.size() + taught.size())
                        .allSatisfy(it -> assertThat(it.sentence()).matches(".* should .*, (is|does)[^:]*: .+"));
            }
        });
    }

    private static Predicate<Target> isOf(Class<?> kind) {
        return kind::isInstance;
    }

    private static Stream<Target> all(Rulebook rulebook) {
        var index = new RulebookIndex(rulebook);
        return rulebook.links().stream()
                .flatMap(link -> index.targets(link).stream())
                .distinct();
    }

    /** Rows since the last time it was asked are those of the command, less those before. */
    @ParameterizedTest(name = "run {0}")
    @MethodSource("runs")
    void whatFollowUpsDidIsWhatTheCommandSays(long run) {
        someTries(run).forEach(one -> {
            var report = one.report();
            var end = report.steps().getLast();
            var ledger = Ledger.of(report.facts());
            var rows = new Followups(one.rulebook).until(ledger, end.at()).rows();
            var starts = new Engine(one.rulebook).calendar().at(one.script.starts());
            var known = Histories.of(ledger.asOf(end.at()));
            for (String who : Tries.PEOPLE) {
                var its = rows.stream()
                        .filter(row -> known.isOnePerson(row.person(), who))
                        .toList();
                var since = its.stream()
                        .filter(row -> !row.time().isBefore(starts))
                        .map(Followups.Row::does)
                        .distinct()
                        .toList();
                var before = its.stream()
                        .filter(row -> row.time().isBefore(starts))
                        .map(Followups.Row::does)
                        .filter(does -> !since.contains(does))
                        .distinct()
                        .toList();
                var asked = new Expectation(who, List.of(), List.of(), Map.of(), null, since, before, Map.of());
                assertThat(one.with(asked, asked).notAsExpected())
                        .as("seed %d, %s: two in a row are one", one.seed, who)
                        .isEmpty();
            }
        });
    }

    /** A story that holds today holds tomorrow: nothing but the story and the rulebook goes in. */
    @Test
    void theSameStoryComesOutTheSame() {
        tries(0).limit(20).forEach(one -> assertThat(one.report()).isEqualTo(one.report()));
    }

    @Test
    void theStoriesHaveWhatThisIsAbout() {
        var many = new TreeMap<String, Integer>();
        var moves = new HashMap<Report.Move, Integer>();
        tries(0).forEach(one -> {
            one.script
                    .scenes()
                    .forEach(scene -> many.merge(scene.doing().getClass().getSimpleName(), 1, Integer::sum));
            one.report().steps().forEach(step -> {
                if (!step.remarks().isEmpty()) {
                    many.merge("held", 1, Integer::sum);
                }
                step.passages().forEach(passage -> {
                    if (passage.at().isBefore(step.at())) {
                        many.merge("by itself", 1, Integer::sum);
                    }
                    passage.people().forEach(came -> {
                        came.moved().forEach(moved -> moves.merge(moved.move(), 1, Integer::sum));
                        came.letters()
                                .forEach(letter -> many.merge(
                                        letter.followup() == null ? "letter" : "own letter", 1, Integer::sum));
                        came.followups().forEach(done -> many.merge("follow-up", 1, Integer::sum));
                    });
                });
            });
        });
        assertThat(many.keySet())
                .contains("Buys", "Turns", "Refunds", "Part", "LetIn", "Studies", "Level", "Tag", "IsGiven", "Joins")
                .contains("held", "by itself", "letter", "own letter", "follow-up");
        assertThat(new TreeSet<>(moves.keySet())).containsExactly(Report.Move.values());
    }
}
