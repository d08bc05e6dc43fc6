package yoru.core.rehearsal;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.Period;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Happening.OrderPlaced;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rehearsal.Script.Cue;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.time.SchoolCalendar;

/**
 * Makes of what happened to somebody a story without their name and address. What no step of a story can say is left out:
 * lists left, accounts made, invoices; orders by hand become orders of the shop, and are paid where they were fulfilled.
 */
public final class Recording {

    private final SchoolCalendar calendar;
    private final Histories known;
    private final String person;

    private final Map<String, Player> people = new LinkedHashMap<>();
    private final Map<String, OrderPlaced> orders = new LinkedHashMap<>();
    private final List<String> subscriptions = new ArrayList<>();
    private final List<String> grants = new ArrayList<>();
    private final List<Scene> scenes = new ArrayList<>();

    private Recording(SchoolCalendar calendar, Histories known, String person) {
        this.calendar = calendar;
        this.known = known;
        this.person = person;
    }

    /**
     * The story of one person; nothing where nothing is known that a story could say.
     *
     * @param ledger all that concerns them, and nothing that lies in the future
     * @param person whose key it is now
     */
    public static Optional<Script> of(Ledger ledger, String person, SchoolCalendar calendar) {
        var recording = new Recording(calendar, Histories.of(ledger), person);
        recording.player(person);
        ledger.facts().stream()
                .filter(fact -> !Followups.isOwn(fact) && recording.concerns(fact))
                .sorted(Comparator.comparing(recording::at).thenComparing(fact -> !isBeginning(fact)))
                .forEach(fact -> recording.doing(fact).ifPresent(doing -> recording.add(fact, doing)));
        return recording.scenes.isEmpty()
                ? Optional.empty()
                : Optional.of(new Script(
                        "recorded",
                        "As it happened",
                        recording.starts(),
                        List.copyOf(recording.people.values()),
                        recording.scenes));
    }

    /** Every step has a time of its own. */
    private LocalDateTime starts() {
        return ((Cue.At) scenes.getFirst().cue()).time();
    }

    /** In a story nothing is paid before it was ordered, whatever a shop says. */
    private Instant at(Fact fact) {
        var began = switch (fact.happening()) {
            case Happening.OfOrder it ->
                known.order(it.order()).map(order -> order.placed().time());
            case Happening.OfSubscription it ->
                known.subscription(it.subscription()).map(one -> one.started().time());
            default -> Optional.<Instant>empty();
        };
        return began.filter(fact.time()::isBefore).orElse(fact.time());
    }

    private static boolean isBeginning(Fact fact) {
        return fact.happening() instanceof OrderPlaced
                || fact.happening() instanceof Happening.SubscriptionStarted
                || fact.happening() instanceof Happening.GrantGiven;
    }

    private LocalDateTime local(Fact fact) {
        return LocalDateTime.ofInstant(at(fact), calendar.zone());
    }

    private boolean concerns(Fact fact) {
        return known.isOnePerson(fact.subject(), person)
                || (fact.happening() instanceof Happening.OfOrder it
                        && known.order(it.order())
                                .filter(order -> order.person().equals(person)
                                        || order.claims().values().stream()
                                                .anyMatch(
                                                        claim -> claim.person().equals(person)))
                                .isPresent());
    }

    private void add(Fact fact, Doing doing) {
        // facts of an order or subscription are its own person's, whoever reported them
        boolean isNamed = !(fact.happening() instanceof Happening.OfOrder)
                || doing instanceof Doing.Buys
                || doing instanceof Doing.Claims;
        var who = player(isNamed ? known.personOf(fact.subject()) : person);
        scenes.add(new Scene(
                "steps[" + scenes.size() + "]",
                false,
                new Cue.At(local(fact)),
                who.equals(people.values().iterator().next().id()) ? null : who,
                doing));
    }

    /** Called by a number: nobody is named. */
    private String player(String key) {
        return people.computeIfAbsent(key, it -> {
                    var id = people.isEmpty() ? "learner" : "other-" + people.size();
                    return new Player(id, id, id + "@story.invalid");
                })
                .id();
    }

    private Optional<Doing> doing(Fact fact) {
        return Optional.ofNullable(
                switch (fact.happening()) {
                    case OrderPlaced it -> placed(it);
                    case Happening.OrderPaid it -> turn(it.order(), Doing.Turn.PAYS);
                    case Happening.OrderFulfilled it -> turn(it.order(), Doing.Turn.FULFILS);
                    case Happening.OrderCancelled it -> turn(it.order(), Doing.Turn.CANCELS);
                    case Happening.OrderRefunded it ->
                        isKnown(it.order())
                                ? new Doing.Refunds(
                                        number(it.order()),
                                        it.line()
                                                .map(line -> line(it.order(), line))
                                                .orElse(null),
                                        it.onlyAmount())
                                : null;
                    case Happening.InstalmentPaid it -> part(true, it.order(), it.line(), it.number());
                    case Happening.InstalmentFailed it -> part(false, it.order(), it.line(), it.number());
                    case Happening.GiftClaimed it ->
                        isKnown(it.order())
                                ? new Doing.Claims(number(it.order()), line(it.order(), it.line()), it.seat())
                                : null;
                    case Happening.SubscriptionStarted it -> started(fact, it);
                    case Happening.SubscriptionRenewed it ->
                        subscription(it.subscription()).map(Doing.Renews::new).orElse(null);
                    case Happening.SubscriptionPaymentFailed it ->
                        subscription(it.subscription()).map(Doing.Fails::new).orElse(null);
                    case Happening.SubscriptionCancelled it ->
                        subscription(it.subscription())
                                .map(number -> new Doing.Resigns(number, it.atPeriodEnd()))
                                .orElse(null);
                    case Happening.SubscriptionRefunded it ->
                        subscription(it.subscription())
                                .map(Doing.RefundsSubscription::new)
                                .orElse(null);
                    case Happening.LevelStarted it -> new Doing.Level(it.level(), true);
                    case Happening.LevelEnded it -> new Doing.Level(it.level(), false);
                    case Happening.TagAdded it -> new Doing.Tag(it.tag(), true);
                    case Happening.TagRemoved it -> new Doing.Tag(it.tag(), false);
                    case Happening.CourseCompleted it -> new Doing.Studies(Doing.Study.FINISHES, it.course());
                    case Happening.CourseChosen it -> new Doing.Studies(Doing.Study.CHOOSES, it.course());
                    case Happening.CourseReleased it -> new Doing.Studies(Doing.Study.RETURNS, it.course());
                    case Happening.GrantGiven it -> {
                        grants.add(it.grant());
                        yield new Doing.IsGiven(it.to(), it.onlyLength());
                    }
                    case Happening.GrantEnded it ->
                        grants.contains(it.grant()) ? new Doing.IsEnded(grants.indexOf(it.grant()) + 1) : null;
                    case Happening.OrderInvoiced _,
                            Happening.ListLeft _,
                            Happening.ListJoined _,
                            Happening.AccountMade _,
                            Happening.OfPerson _,
                            Happening.OfFollowup _,
                            Happening.Unknown _ -> null;
                });
    }

    private Doing placed(OrderPlaced placed) {
        orders.putIfAbsent(placed.order(), placed);
        return new Doing.Buys(placed.lines().stream().map(this::item).toList(), Doing.Pays.LATER, Doing.As.KNOWN);
    }

    private Doing.Item item(OrderLine line) {
        return new Doing.Item(
                line.product(),
                line.chosenOption(),
                line.quantity(),
                line.amount(),
                line.giftTo().map(this::player).orElse(null));
    }

    private @Nullable Doing turn(String order, Doing.Turn turn) {
        return isKnown(order) ? new Doing.Turns(turn, number(order)) : null;
    }

    private @Nullable Doing part(boolean isPaid, String order, String line, int number) {
        return isKnown(order) && number > 1 ? new Doing.Part(isPaid, number(order), line(order, line), number) : null;
    }

    private Doing started(Fact fact, Happening.SubscriptionStarted started) {
        subscriptions.add(started.subscription());
        var trial = started.trial() ? between(fact, started) : null;
        return new Doing.Subscribes(started.product(), started.chosenOption(), trial);
    }

    private Period between(Fact fact, Happening.SubscriptionStarted started) {
        return Period.ofDays(Math.toIntExact(ChronoUnit.DAYS.between(
                local(fact).toLocalDate(), LocalDate.ofInstant(started.paidThrough(), calendar.zone()))));
    }

    private Optional<Integer> subscription(String id) {
        int at = subscriptions.indexOf(id);
        return at < 0 ? Optional.empty() : Optional.of(at + 1);
    }

    private boolean isKnown(String order) {
        return orders.containsKey(order);
    }

    private int number(String order) {
        return List.copyOf(orders.keySet()).indexOf(order) + 1;
    }

    /** The number of a line; the first where the order has no such line. */
    private int line(String order, String line) {
        var lines = Objects.requireNonNull(orders.get(order)).lines();
        return IntStream.range(0, lines.size())
                        .filter(at -> lines.get(at).line().equals(line))
                        .findFirst()
                        .orElse(0)
                + 1;
    }
}
