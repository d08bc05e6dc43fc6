package yoru.core.rehearsal;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.access.Engine;
import yoru.core.doors.Doors;
import yoru.core.followup.Followups;
import yoru.core.followup.Wording;
import yoru.core.ledger.Fact;
import yoru.core.letters.Letter;
import yoru.core.moves.Turn;
import yoru.core.moves.Wishes;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.story.Chapter;
import yoru.core.story.Deed;
import yoru.core.story.Setting;
import yoru.core.story.Step;
import yoru.core.story.Story;
import yoru.core.systems.Wish;

/** Tells stories under one rulebook, and says what came of them. A pure function; it may be asked from many threads. */
public final class Rehearsal {

    private final Engine engine;
    private final Surroundings around;
    private final Followups followups;

    public Rehearsal(Rulebook rulebook, Surroundings around) {
        this(new Engine(rulebook), around);
    }

    public Rehearsal(Engine engine, Surroundings around) {
        this.engine = engine;
        this.around = around;
        this.followups = new Followups(engine, Wording.PLAIN);
    }

    /** The whole of it, step by step. */
    public Report of(Script script) {
        var enacted = new Enacting(script, engine.index(), around).all();
        return enacted.faults().isEmpty()
                ? new Telling(script).all(enacted.scenes())
                : new Report(script, enacted.faults(), List.of());
    }

    /** One telling of one story. */
    private final class Telling {

        private final Script script;
        private final Map<String, Player> people;
        private final ReportWords words;
        private final Verdicts verdicts;
        private final Story story;
        private final List<Report.Step> steps = new ArrayList<>();
        private final Set<Followups.Row> seen = new HashSet<>();
        private final Set<Fact> decided = new HashSet<>();

        Telling(Script script) {
            this.script = script;
            this.people = script.people().stream().collect(Collectors.toMap(Player::id, it -> it));
            this.words = new ReportWords(engine, around.landscape(), people);
            this.verdicts = new Verdicts(script, engine, around, words);
            UnaryOperator<String> names = key -> player(key).map(Player::name).orElse(key);
            UnaryOperator<String> addresses =
                    key -> player(key).map(Player::address).orElse(key);
            var setting = new Setting(
                    around.school(),
                    engine,
                    around.landscape(),
                    order -> false,
                    around.wording(),
                    around.ownPage(),
                    followups.saying(new Wording(names, addresses, around.landscape(), true)));
            var first = script.scenes().isEmpty() ? null : script.scenes().getFirst();
            this.story = Story.begin(
                    setting,
                    first != null && first.cue() instanceof Script.Cue.At it && first.isBefore()
                            ? engine.calendar().at(it.time())
                            : engine.calendar().at(script.starts()));
        }

        private Optional<Player> player(String key) {
            return Optional.ofNullable(people.get(key));
        }

        Report all(List<Enacted> scenes) {
            for (Enacted one : scenes) {
                var chapter = story.tell(new Step(
                        one.at(),
                        one.facts().stream().<Deed>map(Deed.Reported::new).toList()));
                var passages = new ArrayList<Report.Passage>();
                for (Chapter meanwhile : chapter.meanwhile()) {
                    passage(meanwhile, () -> standings(meanwhile)).ifPresent(passages::add);
                }
                var standing = standings(chapter);
                passage(chapter, () -> standing).ifPresent(passages::add);
                steps.add(new Report.Step(
                        one.scene().place(),
                        one.at(),
                        one.scene().isBefore(),
                        words.does(one, script),
                        one.facts(),
                        remarks(one),
                        meets(one, passages),
                        passages,
                        standing,
                        verdicts.of(one.scene(), chapter)));
            }
            return new Report(script, List.of(), steps);
        }

        private List<String> meets(Enacted one, List<Report.Passage> passages) {
            var doors = new Doors(engine, around.offers(), around.landscape(), around.school(), one.at());
            var bought = one.scene().doing() instanceof Doing.Buys it
                    ? it.lines().stream().flatMap(line -> afterBuying(doors, line))
                    : Stream.<String>empty();
            var closed = passages.stream()
                    .flatMap(passage -> passage.people().stream())
                    .flatMap(came -> came.moved().stream())
                    .filter(moved -> moved.move() == Report.Move.ENDED
                            && (moved.target() instanceof Target.OfCourse || moved.target() instanceof Target.OfArea))
                    .map(moved -> "at the door of %s: %s"
                            .formatted(
                                    moved.title(),
                                    doors.closed(Side.WITHOUT, moved.target()).inWords()));
            return Stream.concat(bought, closed).distinct().toList();
        }

        private Stream<String> afterBuying(Doors doors, Doing.Item line) {
            return engine.index().product(line.product()).stream()
                    .map(product -> "after buying %s: %s"
                            .formatted(
                                    product.title(),
                                    doors.bought(product, line.option()).inWords()));
        }

        private List<String> remarks(Enacted one) {
            var remarks = new ArrayList<String>();
            if (one.scene().doing() instanceof Doing.Buys it && it.as() == Doing.As.GUEST && !around.guestsCanBuy()) {
                remarks.add("the shop lets nobody buy without an account");
            }
            one.held().stream().map(words::fact).forEach(remarks::add);
            return remarks;
        }

        private Optional<Report.Passage> passage(Chapter chapter, Supplier<List<Report.Standing>> standing) {
            var rows =
                    chapter.did().rows().stream().filter(row -> seen.add(row)).toList();
            var said = chapter.did().decided().stream()
                    .filter(it -> decided.add(it.mark()))
                    .toList();
            var came = chapter.turns().entrySet().stream()
                    .sorted(Map.Entry.comparingByKey())
                    .map(it -> came(chapter, it.getKey(), it.getValue(), rows, said))
                    .filter(Rehearsal::isSomething)
                    .toList();
            return came.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new Report.Passage(chapter.at(), came, standing.get()));
        }

        private Report.Came came(
                Chapter chapter, String person, Turn turn, List<Followups.Row> rows, List<Followups.Decided> said) {
            var known = chapter.after();
            var its = rows.stream()
                    .filter(row -> known.personOf(row.person()).equals(person))
                    .toList();
            var letters = new ArrayList<Report.Letter>();
            var name = player(person).map(Player::name);
            chapter.letter(person, address(person), name)
                    .map(it -> letter(person, it))
                    .ifPresent(letters::add);
            if (around.landscape().carriesLetters()) {
                said.stream()
                        .filter(it -> known.personOf(it.person()).equals(person))
                        .flatMap(it -> it.said().stream()
                                .filter(one -> !one.subject().isEmpty())
                                .map(one -> new Report.Letter(
                                        address(person),
                                        one.subject(),
                                        one.text(),
                                        it.went().followup())))
                        .forEach(letters::add);
            }
            var wishes = wishes(chapter.told(person), its);
            return new Report.Came(
                    person,
                    name.orElse(person),
                    words.moved(turn, known.person(person), chapter.at()),
                    its.stream().map(this::done).toList(),
                    words.told(wishes),
                    wishes.stream()
                            .map(it -> new Report.Wanted(it, words.says(it)))
                            .toList(),
                    letters);
        }

        private Report.Letter letter(String person, Letter letter) {
            return new Report.Letter(address(person), letter.subject(), letter.text(), null);
        }

        private String address(String person) {
            return player(person).map(Player::address).orElse(person);
        }

        private Report.Done done(Followups.Row row) {
            return new Report.Done(row.time(), row.followup(), words.followup(row.followup()), row.step(), row.does());
        }

        /** With the fields that follow-ups set. */
        private List<Wish> wishes(List<Wish> told, List<Followups.Row> rows) {
            var all = new ArrayList<>(told);
            for (Followups.Row row : rows) {
                if (row.does().startsWith("set ") && row.does().indexOf('=') > 0) {
                    int equals = row.does().indexOf('=');
                    all.addAll(Wishes.field(
                            around.landscape(),
                            row.does().substring("set ".length(), equals),
                            row.does().substring(equals + 1)));
                }
            }
            return all;
        }

        private List<Report.Standing> standings(Chapter chapter) {
            return script.people().stream()
                    .map(player -> {
                        var person = chapter.after().personOf(player.id());
                        var access = chapter.with(person);
                        return new Report.Standing(
                                player.id(),
                                player.name(),
                                person.equals(player.id()) ? null : person,
                                words.open(access),
                                words.held(access));
                    })
                    .toList();
        }
    }

    private static boolean isSomething(Report.Came came) {
        return !(came.moved().isEmpty()
                && came.followups().isEmpty()
                && came.told().isEmpty()
                && came.letters().isEmpty());
    }
}
