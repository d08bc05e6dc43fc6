package yoru.core.story;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import yoru.core.access.Access;
import yoru.core.desk.Decision.Refusal;
import yoru.core.desk.Desk;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.moves.Turn;
import yoru.core.moves.Turns;
import yoru.core.systems.Matter;
import yoru.core.systems.Wish;

/**
 * Steps told one after the other, and what comes of each: facts, access, what has moved, what the systems are told, letters.
 * Nothing is kept anywhere but in here.
 */
public final class Story {

    /** The source of the facts that a story makes up. */
    private static final String SOURCE = "/yoru/story";

    private final Setting setting;
    private final Turns turns;
    private final Map<String, Turn> turned = new LinkedHashMap<>();
    private final Map<String, Map<About, Wish>> held = new HashMap<>();
    private final Set<String> seatsTold = new HashSet<>();
    private Map<String, Instant> due = Map.of();
    private Ledger ledger;
    private Instant now;
    private int steps;

    private Story(Setting setting, Ledger ledger, Instant now) {
        this.setting = setting;
        this.turns = new Turns(setting.engine(), setting.landscape(), UnaryOperator.identity());
        this.ledger = ledger;
        this.now = now;
    }

    /** What of one system a wish is about. */
    private record About(String system, Matter matter) {}

    /** Begins where nothing has happened yet. */
    public static Story begin(Setting setting, Instant at) {
        return begin(setting, Ledger.of(List.of()), at);
    }

    /** Begins with what is known at a moment, all of it told to the systems. */
    public static Story begin(Setting setting, Ledger known, Instant at) {
        var story = new Story(setting, known, at);
        story.look(story.known());
        return story;
    }

    /** All that is known at a moment, and what follow-ups have done by then. */
    private record Known(Histories histories, Followups.Done did) {}

    /**
     * Tells one step. What begins or ends by itself before it is gone through before; what does at its very moment is
     * looked at together with it, as everything is that happens at one time.
     *
     * @throws IllegalArgumentException where its moment lies before the last one's
     */
    public Chapter tell(Step step) {
        var meanwhile = passTo(step.at());
        steps++;
        var before = known();
        var facts = new ArrayList<Fact>();
        for (Deed deed : step.deeds()) {
            var refusals = add(facts, deed);
            if (!refusals.isEmpty()) {
                return new Chapter(
                        setting,
                        now,
                        List.of(),
                        refusals,
                        meanwhile,
                        before.histories,
                        before.histories,
                        Map.of(),
                        Map.of(),
                        before.did,
                        it -> true);
            }
        }
        ledger = with(facts);
        return chapter(facts, meanwhile, before.histories, facts.isEmpty() ? before : known());
    }

    private Chapter chapter(List<Fact> facts, List<Chapter> meanwhile, Histories before, Known after) {
        var told = look(after);
        var known = Set.copyOf(seatsTold);
        var chapter = new Chapter(
                setting,
                now,
                facts,
                List.of(),
                meanwhile,
                before,
                after.histories,
                turned,
                told,
                after.did,
                order -> known.contains(order) || setting.seatsAreKnown().test(order));
        turned.keySet().forEach(person -> chapter.withSeats(person).ifPresent(offer -> seatsTold.add(offer.order())));
        return chapter;
    }

    /** All that has happened, and what a report says is still to happen. */
    public Ledger ledger() {
        return ledger;
    }

    /** What somebody has now. */
    public List<Access> access(String person) {
        return Optional.ofNullable(turned.get(person)).map(Turn::access).orElse(List.of());
    }

    /** What the systems hold of somebody, as they were told last. */
    public List<Wish> held(String person) {
        return held.getOrDefault(person, Map.of()).values().stream()
                .filter(wish -> !wish.isOfNothing())
                .toList();
    }

    private Known known() {
        var reported = ledger.asOf(now);
        var followups = setting.followups();
        if (followups == null) {
            return new Known(Histories.of(reported), Followups.NOTHING);
        }
        var did = followups.until(reported, now);
        return new Known(Histories.of(did.facts().isEmpty() ? reported : did.over(reported)), did);
    }

    private List<Chapter> passTo(Instant at) {
        if (at.isBefore(now)) {
            throw new IllegalArgumentException("a story does not go back from %s to %s".formatted(now, at));
        }
        var meanwhile = new ArrayList<Chapter>();
        for (var next = next(at); next.isPresent(); next = next(at)) {
            now = next.get();
            var known = known();
            meanwhile.add(chapter(List.of(), List.of(), known.histories, known));
        }
        now = at;
        return meanwhile;
    }

    private Optional<Instant> next(Instant before) {
        return Stream.concat(turned.values().stream().flatMap(turn -> turn.next().stream()), due.values().stream())
                .filter(next -> next.isAfter(now) && next.isBefore(before))
                .min(Instant::compareTo);
    }

    private List<Refusal> add(List<Fact> facts, Deed deed) {
        switch (deed) {
            case Deed.Reported it -> facts.add(it.fact());
            case Deed.Happens it -> {
                var id = new FactId(SOURCE, "%04d/%02d".formatted(steps, facts.size() + 1));
                facts.add(new Fact(id, it.person(), now, it.happening()));
            }
            case Deed.Acts it -> {
                var decision = new Desk(setting.engine(), with(facts), now).decide(it.act(), it.key());
                facts.addAll(decision.facts());
                return decision.refusals();
            }
        }
        return List.of();
    }

    private Ledger with(List<Fact> more) {
        var all = new ArrayList<>(ledger.facts());
        all.addAll(more);
        return Ledger.of(all);
    }

    /**
     * Looks everybody over, also who has become another by a join.
     *
     * @return what the systems are told, by person
     */
    private Map<String, List<Wish>> look(Known known) {
        var histories = known.histories;
        due = known.did.next();
        var toCome = Turns.toCome(ledger, now);
        var people = new LinkedHashSet<>(turned.keySet());
        histories.all().stream().map(History::person).forEach(people::add);
        Map<String, List<Wish>> told = new HashMap<>();
        for (String person : people) {
            var before = Optional.ofNullable(turned.get(person)).map(Turn::open).orElse(List.of());
            var turn = turns.of(histories.person(person), toCome, before, section -> true, now);
            turned.put(person, turn);
            told.put(person, say(person, turn.wishes()));
        }
        return told;
    }

    private List<Wish> say(String person, List<Wish> wishes) {
        var holds = held.computeIfAbsent(person, key -> new LinkedHashMap<>());
        var told = new ArrayList<Wish>();
        for (Wish wish : wishes) {
            var about = new About(wish.system(), wish.matter());
            if (wish.isNewsAfter(Optional.ofNullable(holds.get(about)))) {
                holds.put(about, wish);
                told.add(wish);
            }
        }
        return told;
    }
}
