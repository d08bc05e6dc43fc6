package yoru.core.rehearsal;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.Words;
import yoru.core.followup.Followups;
import yoru.core.followup.Followups.Row;
import yoru.core.ledger.History;
import yoru.core.rehearsal.Expectation.End;
import yoru.core.rehearsal.Report.Expected;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Target;
import yoru.core.story.Chapter;

/** Says of all that should be so whether it is. One of them goes through one story, in its order. */
final class Verdicts {

    private static final int SHOWN = 4;

    private final Script script;
    private final Surroundings around;
    private final ReportWords words;
    private final ZoneId zone;
    private final Instant starts;

    /** What had been done when it was last asked, by person: before this row of expectations, and in it. */
    private final Map<String, Set<Row>> before = new HashMap<>();

    private final Map<String, Set<Row>> inThisRow = new HashMap<>();

    Verdicts(Script script, Engine engine, Surroundings around, ReportWords words) {
        this.script = script;
        this.around = around;
        this.words = words;
        this.zone = engine.index().rulebook().school().zone();
        this.starts = engine.calendar().at(script.starts());
    }

    /** None where nothing is said of what should be. */
    List<Expected> of(Scene scene, Chapter chapter) {
        if (!(scene.doing() instanceof Doing.Expects it)) {
            before.putAll(inThisRow);
            inThisRow.clear();
            return List.of();
        }
        var who = it.expectation().who() == null
                ? script.people().getFirst().id()
                : it.expectation().who();
        return new Asking(it.expectation(), who, chapter).all();
    }

    /** What should be so of one person at one moment. */
    private final class Asking {

        private final Expectation expected;
        private final String who;
        private final Chapter chapter;
        private final Instant at;
        private final History history;
        private final Map<Target, Access> open = new LinkedHashMap<>();
        private final List<Expected> said = new ArrayList<>();

        Asking(Expectation expected, String who, Chapter chapter) {
            this.expected = expected;
            this.who = who;
            this.chapter = chapter;
            this.at = chapter.at();
            var person = chapter.after().personOf(who);
            this.history = chapter.after().person(person);
            chapter.with(person).stream()
                    .filter(access -> access.state().isOpen())
                    .forEach(access -> open.put(access.target(), access));
        }

        List<Expected> all() {
            expected.open().forEach(target -> opens(target, "should be open"));
            expected.closed().forEach(this::closed);
            expected.until().forEach(this::until);
            if (expected.exactly() != null) {
                exactly(expected.exactly());
            }
            var rows = doneSince();
            expected.done().forEach(does -> done(does, rows));
            expected.notDone().forEach(does -> notDone(does, rows));
            expected.told().forEach(this::told);
            return List.copyOf(said);
        }

        private void say(boolean holds, String sentence) {
            said.add(new Expected(holds, sentence));
        }

        private void opens(Target target, String should) {
            if (open.containsKey(target)) {
                say(true, target.path() + " is open");
            } else {
                say(false, target.path() + " " + should + ", is closed: " + whyClosed(target));
            }
        }

        private void closed(Target target) {
            if (open.containsKey(target)) {
                say(false, target.path() + " should be closed, is open: " + whyOpen(target));
            } else {
                say(true, target.path() + " is closed");
            }
        }

        private void until(Target target, End end) {
            var should = "should be open " + until(end);
            if (!open.containsKey(target)) {
                opens(target, should);
                return;
            }
            var is = open.get(target).window().end();
            boolean holds = switch (end) {
                case End.Never _ -> is.isEmpty();
                case End.OnDay it ->
                    is.filter(time -> day(time).equals(it.day())).isPresent();
                case End.AtTime it ->
                    is.filter(time -> local(time).equals(it.time())).isPresent();
            };
            var really = is.map(time -> end instanceof End.AtTime ? "until " + local(time) : "until " + words.day(time))
                    .orElse("without an end");
            say(
                    holds,
                    holds
                            ? target.path() + " is open " + really
                            : "%s %s, is open %s: %s".formatted(target.path(), should, really, whyOpen(target)));
        }

        private static String until(End end) {
            return switch (end) {
                case End.Never _ -> "without an end";
                case End.OnDay it -> "until " + Words.day(it.day().atStartOfDay());
                case End.AtTime it -> "until " + it.time();
            };
        }

        private void exactly(List<Target> all) {
            var others = open.keySet().stream()
                    .filter(target -> !(target instanceof Target.OfSection) && !all.contains(target))
                    .toList();
            var lacking =
                    all.stream().filter(target -> !open.containsKey(target)).toList();
            lacking.forEach(target -> opens(target, "should be open"));
            others.forEach(target -> say(false, target.path() + " should not be open, is open: " + whyOpen(target)));
            if (lacking.isEmpty() && others.isEmpty()) {
                say(
                        true,
                        all.isEmpty()
                                ? "nothing is open"
                                : "exactly this is open: "
                                        + all.stream().map(Target::path).collect(Collectors.joining(", ")));
            }
        }

        /** What follow-ups have done for the person since it was last asked of them. */
        private List<Row> doneSince() {
            var known = chapter.after();
            var all = chapter.did().rows().stream()
                    .filter(row -> known.isOnePerson(row.person(), who))
                    .collect(Collectors.toCollection(LinkedHashSet::new));
            var asked = before.keySet().stream()
                    .filter(one -> known.isOnePerson(one, who))
                    .toList();
            var already = asked.stream()
                    .flatMap(one -> before.getOrDefault(one, Set.of()).stream())
                    .collect(Collectors.toSet());
            inThisRow.put(who, all);
            return all.stream()
                    .filter(row -> asked.isEmpty() ? !row.time().isBefore(starts) : !already.contains(row))
                    .toList();
        }

        private void done(String does, List<Row> rows) {
            if (rows.stream().anyMatch(row -> row.does().equals(does))) {
                say(true, "done: " + does);
            } else {
                say(false, "`" + does + "` should be done, was not: " + whyNotDone(rows));
            }
        }

        private void notDone(String does, List<Row> rows) {
            rows.stream()
                    .filter(row -> row.does().equals(does))
                    .findFirst()
                    .ifPresentOrElse(
                            row -> say(
                                    false,
                                    "`%s` should not be done, was, on %s by %s"
                                            .formatted(does, words.day(row.time()), words.followup(row.followup()))),
                            () -> say(true, "not done: " + does));
        }

        private String whyNotDone(List<Row> rows) {
            var left = chapter.did().asked().stream()
                    .filter(asked -> chapter.after().isOnePerson(asked.person(), who))
                    .filter(asked -> asked.outcome() != Followups.Outcome.SERVED
                            && !asked.at().isBefore(starts))
                    .map(asked -> words.followup(asked.followup()) + " was asked on " + words.day(asked.at()) + ": "
                            + why(asked.outcome()))
                    .distinct()
                    .limit(SHOWN)
                    .toList();
            var did = rows.isEmpty()
                    ? "nothing was done"
                    : "done was "
                            + rows.stream()
                                    .map(Row::does)
                                    .distinct()
                                    .limit(SHOWN)
                                    .collect(Collectors.joining(", "));
            return left.isEmpty() ? did : did + "; " + String.join("; ", left);
        }

        private void told(String system, Expectation.Held held) {
            held.open().forEach(target -> {
                if (holds(system, target)) {
                    say(true, system + " holds " + target.path());
                } else {
                    say(false, system + " should hold " + target.path() + ", does not: " + whyNotHeld(system, target));
                }
            });
            held.closed().forEach(target -> {
                if (holds(system, target)) {
                    say(false, system + " should not hold " + target.path() + ", does: " + whyOpen(target));
                } else {
                    say(true, system + " does not hold " + target.path());
                }
            });
        }

        private boolean holds(String system, Target target) {
            return open.containsKey(target) && isTold(system, target);
        }

        private String whyNotHeld(String system, Target target) {
            return isTold(system, target) ? "it is closed. " + whyClosed(target) : system + " is not told of it";
        }

        private boolean isTold(String system, Target target) {
            return around.landscape().holdersOf(target).stream().anyMatch(around.named(system)::contains);
        }

        private String whyOpen(Target target) {
            return Optional.ofNullable(open.get(target))
                    .map(access -> words.whyOpen(access, at))
                    .orElse("");
        }

        private String whyClosed(Target target) {
            return words.whyClosed(history, target, at);
        }
    }

    private static String why(Followups.Outcome outcome) {
        return switch (outcome) {
            case SERVED -> "served";
            case LONG_PAST -> "long past";
            case OFF -> "it is off";
            case BEFORE_SINCE -> "that was before it began";
            case STANDS -> "decided before";
            case SERVED_BEFORE -> "served before";
            case NO_ROW -> "none of its rows is for it";
            case NOT_SO -> "its conditions did not hold";
        };
    }

    private LocalDate day(Instant time) {
        return local(time).toLocalDate();
    }

    private LocalDateTime local(Instant time) {
        return LocalDateTime.ofInstant(time, zone);
    }
}
