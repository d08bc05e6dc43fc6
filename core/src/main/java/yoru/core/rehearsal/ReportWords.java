package yoru.core.rehearsal;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.Entitlement;
import yoru.core.access.Explanation;
import yoru.core.access.HowLong;
import yoru.core.access.Reason;
import yoru.core.access.WhyClosed;
import yoru.core.access.Words;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.History;
import yoru.core.moves.Moves;
import yoru.core.moves.Turn;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;
import yoru.core.systems.Matter;
import yoru.core.systems.Wish;

/** The sentences of a report. */
final class ReportWords {

    private final Rulebook rulebook;
    private final Landscape landscape;
    private final Explanation explanation;
    private final WhyClosed whyClosed;
    private final Words words;
    private final DoingInWords doing;

    ReportWords(Engine engine, Landscape landscape, Map<String, Player> people) {
        this.rulebook = engine.index().rulebook();
        this.landscape = landscape;
        this.explanation = new Explanation(rulebook, 0);
        this.whyClosed = new WhyClosed(engine);
        this.words = new Words(rulebook.school().zone());
        this.doing = new DoingInWords(rulebook, people);
    }

    String does(Enacted one, Script script) {
        return doing.of(one.scene(), script);
    }

    /** A fact that waits, in words. */
    String fact(Fact fact) {
        return doing.of(fact);
    }

    /** Why something is open: "order o0001, 1 year and tag member, always". */
    String whyOpen(Access access, Instant at) {
        return access.entitlements().stream()
                .filter(one -> one.stretch().open().contains(at))
                .map(this::label)
                .distinct()
                .collect(Collectors.joining(" and "));
    }

    private String label(Entitlement entitlement) {
        var label = explanation.label(entitlement);
        return entitlement.reason() instanceof Reason.ByHand it && Followups.isOwn(it.startedBy())
                ? "follow-up " + it.grant().details().reason() + label.substring(label.indexOf(','))
                : label;
    }

    /** Why something is closed, in a sentence or two. */
    String whyClosed(History history, Target target, Instant at) {
        return whyClosed.of(history, target, at).stream()
                .map(explanation::obstacle)
                .distinct()
                .collect(Collectors.joining(" "));
    }

    /** "until 2 Mar 2027". */
    String howLong(HowLong howLong) {
        return howLong.inWords(words);
    }

    /** "2 Mar 2027". */
    String day(Instant at) {
        return words.day(at);
    }

    /** What a follow-up is called. */
    String followup(String id) {
        return rulebook.followups().stream()
                .filter(it -> it.id().equals(id))
                .map(Followup::title)
                .findFirst()
                .orElse(id);
    }

    String title(Target target) {
        return switch (target) {
            case Target.OfSection it ->
                rulebook.title(new Target.OfCourse(it.course())) + ": " + rulebook.title(target);
            case Target.OfTag _ -> "tag " + rulebook.title(target);
            case Target.OfCourse _,
                    Target.OfLevel _,
                    Target.OfGroup _,
                    Target.OfArea _,
                    Target.OfDownload _,
                    Target.OfList _ -> rulebook.title(target);
        };
    }

    List<Report.Moved> moved(Turn turn, History history, Instant at) {
        var all = new ArrayList<Report.Moved>();
        var opened = turn.moves().opened();
        var sections = withCourse(opened, Moves.Opened::target, Moves.Opened::howLong);
        for (Moves.Opened one : opened) {
            if (!sections.rest.contains(one.target())) {
                all.add(new Report.Moved(
                        one.target(),
                        sections.title(one.target()),
                        Report.Move.OPENED,
                        howLong(one.howLong()),
                        whyOpen(one.access(), at)));
            }
        }
        var changed = turn.moves().changed();
        var others = withCourse(changed, it -> it.target(), it -> it.howLong());
        for (var one : changed) {
            if (!others.rest.contains(one.target())) {
                all.add(new Report.Moved(
                        one.target(),
                        title(one.target()),
                        Report.Move.CHANGED,
                        howLong(one.howLong()),
                        openNow(turn.access(), one.target())
                                .map(access -> whyOpen(access, at))
                                .orElse("")));
            }
        }
        var ended = turn.moves().ended();
        var gone = withCourse(ended, Moves.Ended::target, it -> HowLong.ALWAYS);
        for (Moves.Ended one : ended) {
            if (!gone.rest.contains(one.target())) {
                all.add(new Report.Moved(
                        one.target(),
                        title(one.target()),
                        Report.Move.ENDED,
                        "",
                        whyClosed(history, one.target(), at)));
            }
        }
        return all;
    }

    private static Optional<Access> openNow(List<Access> access, Target target) {
        return access.stream()
                .filter(one -> one.target().equals(target) && one.state().isOpen())
                .findFirst();
    }

    List<Report.Open> open(List<Access> access) {
        var open = access.stream().filter(one -> one.state().isOpen()).toList();
        var sections = withCourse(open, Access::target, HowLong::of);
        return open.stream()
                .filter(one -> !sections.rest.contains(one.target()))
                .map(one -> new Report.Open(
                        one.target(),
                        sections.title(one.target()),
                        howLong(HowLong.of(one)),
                        one.entitlements().stream().map(this::label).distinct().collect(Collectors.joining(" and "))))
                .toList();
    }

    /** What each system is to hold of what somebody has. */
    List<Report.Told> held(List<Access> access) {
        var open = access.stream().filter(one -> one.state().isOpen()).toList();
        var sections = withCourse(open, Access::target, HowLong::of);
        Map<ConnectedSystem, List<String>> held = new LinkedHashMap<>();
        for (Access one : open) {
            for (ConnectedSystem system : landscape.holdersOf(one.target())) {
                var its = held.computeIfAbsent(system, key -> new ArrayList<>());
                if (!sections.rest.contains(one.target())) {
                    its.add(sections.title(one.target()) + " " + howLong(HowLong.of(one)));
                }
            }
        }
        return held.entrySet().stream()
                .map(it -> new Report.Told(it.getKey().id(), it.getKey().title(), it.getValue()))
                .toList();
    }

    /** What systems are told, each in the order in which it is. */
    List<Report.Told> told(List<Wish> wishes) {
        Map<String, List<Wish>> bySystem = wishes.stream()
                .distinct()
                .collect(Collectors.groupingBy(Wish::system, LinkedHashMap::new, Collectors.toList()));
        var told = new ArrayList<Report.Told>();
        bySystem.forEach((system, its) -> {
            var title = landscape.systems().stream()
                    .filter(one -> one.id().equals(system))
                    .map(ConnectedSystem::title)
                    .findFirst()
                    .orElse(system);
            told.add(new Report.Told(system, title, says(its)));
        });
        return told;
    }

    private List<String> says(List<Wish> wishes) {
        var access = wishes.stream()
                .filter(wish -> wish.matter() instanceof Matter.Access)
                .toList();
        var sections = withCourse(
                access,
                wish -> ((Matter.Access) wish.matter()).target(),
                wish -> List.of(wish.isOpen(), wish.howLong()));
        return wishes.stream()
                .filter(wish -> !(wish.matter() instanceof Matter.Access it) || !sections.rest.contains(it.target()))
                .map(wish -> says(wish, sections::title))
                .toList();
    }

    /** One thing that a system is told. */
    String says(Wish wish) {
        return says(wish, this::title);
    }

    private String says(Wish wish, Function<Target, String> titles) {
        return switch (wish.matter()) {
            case Matter.Account _ -> "an account";
            case Matter.Access it ->
                wish.isOpen()
                        ? "open " + titles.apply(it.target()) + " " + howLong(wish.howLong())
                        : "close " + title(it.target());
            case Matter.Field it -> "field " + it.name() + " is " + (wish.said() == null ? "empty" : wish.said());
            case Matter.Letter it -> "letter " + it.id();
            case Matter.Event it -> "event " + it.id();
            case Matter.Code it -> "code " + it.id();
        };
    }

    /**
     * Sections that do as their course does are said with it.
     *
     * @param rest those that are
     */
    private record Sections(Set<Target> rest, Map<String, Integer> of, ReportWords words) {

        /** With how many of its sections, where it is not all of them. */
        String title(Target target) {
            var title = words.title(target);
            if (target instanceof Target.OfCourse it) {
                int all = words.rulebook
                        .course(it.course())
                        .map(Course::sections)
                        .map(List::size)
                        .orElse(0);
                int some = of.getOrDefault(it.course(), 0);
                return some == all ? title : title + ", %d of %d sections".formatted(some, all);
            }
            return title;
        }
    }

    private <T> Sections withCourse(List<T> all, Function<T, Target> target, Function<T, Object> how) {
        Map<String, Object> courses = new LinkedHashMap<>();
        for (T one : all) {
            if (target.apply(one) instanceof Target.OfCourse it) {
                courses.put(it.course(), how.apply(one));
            }
        }
        Set<Target> rest = new HashSet<>();
        Map<String, Integer> of = new LinkedHashMap<>();
        for (T one : all) {
            if (target.apply(one) instanceof Target.OfSection it
                    && how.apply(one).equals(courses.get(it.course()))) {
                rest.add(it);
                of.merge(it.course(), 1, Integer::sum);
            }
        }
        return new Sections(rest, of, this);
    }
}
