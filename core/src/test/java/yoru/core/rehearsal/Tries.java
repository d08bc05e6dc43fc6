package yoru.core.rehearsal;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import yoru.core.rehearsal.Script.Cue;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Target;

/** Makes stories by chance, for the schools of {@link yoru.core.World}; all of them can be told. */
final class Tries {

    static final List<String> PEOPLE = List.of("ines", "odd", "rue");

    private static final List<String> PRODUCTS = List.of("BOX", "PLAN", "CLUB", "TALK", "TEAM");
    private static final List<String> COURSES = List.of("first-hive", "queen-rearing", "calm-swarms", "wax-works");

    private final Random random;
    private final List<Scene> scenes = new ArrayList<>();
    private int orders;
    private int grants;

    Tries(long seed) {
        this.random = new Random(seed * 17 + 3);
    }

    /** About people of whom two may turn out to be one. */
    Script script() {
        var starts = LocalDateTime.parse(pick(
                "2024-01-31T10:00", "2024-02-29T09:00", "2024-03-30T01:30", "2024-10-27T00:30", "2025-03-31T23:59"));
        var at = starts.minusYears(1);
        for (int n = random.nextInt(3); n > 0; n--) {
            at = at.plusDays(random.nextInt(90));
            scenes.add(new Scene("before[" + scenes.size() + "]", true, new Cue.At(at), who(), doing()));
        }
        int before = scenes.size();
        for (int n = 3 + random.nextInt(10); n > 0; n--) {
            var doing = doing();
            // nobody is joined into themselves
            var who = doing instanceof Doing.Joins ? pick("ines", "odd") : who();
            scenes.add(new Scene("steps[" + (scenes.size() - before) + "]", false, cue(), who, doing));
        }
        return new Script(
                "chance",
                "By chance",
                starts,
                PEOPLE.stream()
                        .map(it -> new Player(it, it, it + "@story.invalid"))
                        .toList(),
                scenes);
    }

    private Cue cue() {
        return switch (random.nextInt(6)) {
            case 0 -> new Cue.After(Period.ofMonths(1), Duration.ZERO);
            case 1 -> new Cue.After(Period.ofDays(1 + random.nextInt(20)), Duration.ofHours(random.nextInt(30)));
            case 2 -> new Cue.After(Period.ofMonths(6), Duration.ZERO);
            case 3 -> new Cue.After(Period.ZERO, Duration.ofMinutes(10));
            default -> Cue.After.AT_ONCE;
        };
    }

    private @Nullable String who() {
        return random.nextBoolean() ? null : pick(PEOPLE);
    }

    private Doing doing() {
        if (orders == 0 || random.nextInt(4) == 0) {
            return buys();
        }
        Integer order = 1 + random.nextInt(orders);
        return switch (random.nextInt(20)) {
            case 0, 1, 2 -> new Doing.Turns(Doing.Turn.PAYS, order);
            case 3 -> new Doing.Turns(Doing.Turn.FULFILS, order);
            case 4 -> new Doing.Turns(Doing.Turn.CANCELS, order);
            case 5 -> new Doing.Refunds(order, null, null);
            case 6 -> new Doing.Refunds(order, 1, new BigDecimal("20.00"));
            case 7 -> new Doing.Part(random.nextBoolean(), order, 1, 2 + random.nextInt(2));
            case 8 -> new Doing.LetIn(order);
            case 9 -> new Doing.Studies(pick(Doing.Study.values()), pick(COURSES));
            case 10 -> new Doing.Studies(Doing.Study.CHOOSES, pick(COURSES));
            case 11, 12 -> new Doing.Level(pick("helper", "keeper", "warden", "pourer"), random.nextInt(3) > 0);
            case 13 -> new Doing.Tag(pick("amber", "birch", "clover"), random.nextInt(3) > 0);
            case 14 -> given();
            case 15 -> grants == 0 ? given() : new Doing.IsEnded(1 + random.nextInt(grants));
            case 16 -> scenes.size() > 8 ? new Doing.Joins("rue") : new Doing.Nothing();
            default -> new Doing.Nothing();
        };
    }

    private Doing given() {
        grants++;
        return new Doing.IsGiven(
                List.of(pick(
                        Destination.whole(pick(COURSES)),
                        new Destination.Exactly(new Target.OfTag("amber")),
                        new Destination.Exactly(new Target.OfArea("talk")))),
                random.nextBoolean() ? Period.ofMonths(2) : null);
    }

    private Doing buys() {
        orders++;
        var items = new ArrayList<Doing.Item>();
        for (int n = 1 + random.nextInt(2); n > 0; n--) {
            items.add(new Doing.Item(
                    pick(PRODUCTS),
                    null,
                    1 + random.nextInt(3),
                    random.nextInt(4) == 0 ? new BigDecimal("0.00") : null,
                    random.nextInt(6) == 0 ? pick(PEOPLE) : null));
        }
        return new Doing.Buys(
                items,
                pick(Doing.Pays.NOW, Doing.Pays.NOW, Doing.Pays.LATER, Doing.Pays.ZERO),
                pick(Doing.As.values()));
    }

    @SafeVarargs
    private <T> T pick(T... from) {
        return from[random.nextInt(from.length)];
    }

    private <T> T pick(List<T> from) {
        return from.get(random.nextInt(from.size()));
    }
}
