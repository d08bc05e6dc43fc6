package yoru.core.rehearsal;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.Period;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Purchase;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.money.MinorUnits;
import yoru.core.rehearsal.Script.Cue;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Thing;
import yoru.core.time.SchoolCalendar;

/** Goes through a story once, and makes of each step the facts that it stands for. */
final class Enacting {

    /** The source of the facts of stories. */
    static final String SOURCE = "yoru:story";

    /** Where nobody knows what something costs. */
    private static final BigDecimal USUAL = new BigDecimal("100");

    private static final Instant EARLIEST = Instant.EPOCH;
    private static final Instant LATEST = Instant.parse("9999-12-31T00:00:00Z");

    private final Script script;
    private final RulebookIndex index;
    private final Surroundings around;
    private final SchoolCalendar calendar;
    private final ExpectationCheck expectations;

    private final Map<String, Player> people = new LinkedHashMap<>();
    private final List<Bought> orders = new ArrayList<>();
    private final List<Paying> subscriptions = new ArrayList<>();
    private final List<Granted> grants = new ArrayList<>();
    private final Map<String, String> joined = new HashMap<>();
    private final Set<String> known = new HashSet<>();
    private final List<Enacted> enacted = new ArrayList<>();
    private final List<Unusable> faults = new ArrayList<>();

    private Instant now = EARLIEST;
    private int position;
    private List<Fact> facts = new ArrayList<>();
    private List<Fact> held = new ArrayList<>();

    Enacting(Script script, RulebookIndex index, Surroundings around) {
        this.script = script;
        this.index = index;
        this.around = around;
        this.calendar = new SchoolCalendar(index.rulebook().school().zone());
        this.expectations = new ExpectationCheck(index, around, people, faults);
    }

    private interface Owned {
        String person();
    }

    /** An order of the story, its facts where it is held, and the seats of it that were claimed. */
    private static final class Bought implements Owned {
        final String id;
        final String person;
        final List<OrderLine> lines;
        final Set<Order.Seat> claimed = new HashSet<>();
        final List<Fact> waiting = new ArrayList<>();
        boolean isHeld;

        Bought(String id, String person, List<OrderLine> lines, boolean isHeld) {
            this.id = id;
            this.person = person;
            this.lines = lines;
            this.isHeld = isHeld;
        }

        @Override
        public String person() {
            return person;
        }
    }

    private static final class Paying implements Owned {
        final String id;
        final String person;
        final Period every;
        Instant paidThrough;

        Paying(String id, String person, Period every, Instant paidThrough) {
            this.id = id;
            this.person = person;
            this.every = every;
            this.paidThrough = paidThrough;
        }

        @Override
        public String person() {
            return person;
        }
    }

    private record Granted(String id, String person) implements Owned {}

    /** @param faults none = it can be told */
    record Outcome(List<Enacted> scenes, List<Unusable> faults) {}

    Outcome all() {
        meetPeople();
        var starts = calendar.at(script.starts());
        if (starts.isBefore(EARLIEST) || starts.isAfter(LATEST)) {
            fault("starts", "must be a time of the years 1970 to 9999");
            return new Outcome(List.of(), faults);
        }
        if (script.scenes().size() > Script.MOST_SCENES) {
            fault(
                    "steps",
                    "a story has at most %d steps, with those before it; these are %d"
                            .formatted(Script.MOST_SCENES, script.scenes().size()));
            return new Outcome(List.of(), faults);
        }
        boolean begun = false;
        for (Scene scene : script.scenes()) {
            position++;
            if (!begun && !scene.isBefore()) {
                begun = true;
                now = starts;
            }
            move(scene, starts);
            facts = new ArrayList<>();
            held = new ArrayList<>();
            if (scene.who() != null && !people.containsKey(scene.who())) {
                nobody(scene.place() + ".who", scene.who());
            }
            enact(scene);
            enacted.add(new Enacted(scene, now, facts, held));
        }
        return new Outcome(enacted, faults);
    }

    private void meetPeople() {
        for (int at = 0; at < script.people().size(); at++) {
            var player = script.people().get(at);
            if (people.putIfAbsent(player.id(), player) != null) {
                fault("people[" + at + "].id", "`" + player.id() + "` stands twice");
            }
        }
    }

    private void move(Scene scene, Instant starts) {
        var then = switch (scene.cue()) {
            case Cue.At it -> calendar.at(it.time());
            case Cue.After it -> after(it);
        };
        var key = scene.place() + (scene.cue() instanceof Cue.After ? ".after" : scene.isBefore() ? ".at" : ".on");
        if (then.isBefore(EARLIEST)) {
            fault(key, "must not be before 1970");
        } else if (then.isAfter(LATEST)) {
            fault(key, "leads past the year 9999");
        } else if (then.isBefore(now)) {
            fault(key, "goes back: the step before it is at " + local(now));
        } else if (scene.isBefore() && !then.isBefore(starts)) {
            fault(key, "must lie before the story starts, at " + script.starts());
        } else {
            now = then;
        }
    }

    private Instant after(Cue.After cue) {
        var day = calendar.plus(now, cue.days());
        return day.isAfter(LATEST) ? day : day.plus(cue.time());
    }

    private LocalDateTime local(Instant time) {
        return LocalDateTime.ofInstant(time, calendar.zone());
    }

    private void enact(Scene scene) {
        switch (scene.doing()) {
            case Doing.Buys it -> buys(scene, it);
            case Doing.Turns it -> turns(scene, it);
            case Doing.Refunds it ->
                order(scene, "refunds", it.order(), true)
                        .ifPresent(order -> line(scene, "refunds", order, it.line())
                                .ifPresent(line -> about(
                                        order,
                                        new Happening.OrderRefunded(
                                                order.id, it.line() == null ? null : line.line(), it.amount()))));
            case Doing.RefundsSubscription it ->
                subscription(scene, "refunds", it.subscription())
                        .ifPresent(one -> happens(one.person, new Happening.SubscriptionRefunded(one.id)));
            case Doing.Part it -> part(scene, it);
            case Doing.Claims it -> claims(scene, it);
            case Doing.Subscribes it -> subscribes(scene, it);
            case Doing.Renews it ->
                subscription(scene, "renews", it.subscription()).ifPresent(this::renews);
            case Doing.Fails it ->
                subscription(scene, "fails", it.subscription())
                        .ifPresent(one -> happens(one.person, new Happening.SubscriptionPaymentFailed(one.id)));
            case Doing.Resigns it ->
                subscription(scene, "resigns", it.subscription())
                        .ifPresent(one ->
                                happens(one.person, new Happening.SubscriptionCancelled(one.id, it.atPeriodEnd())));
            case Doing.Studies it -> {
                var word = it.study().name().toLowerCase(Locale.ROOT);
                if (isKnown(scene, word + ".course", Sort.COURSE, it.course())) {
                    happens(
                            who(scene),
                            switch (it.study()) {
                                case FINISHES -> new Happening.CourseCompleted(it.course());
                                case CHOOSES -> new Happening.CourseChosen(it.course());
                                case RETURNS -> new Happening.CourseReleased(it.course());
                            });
                }
            }
            case Doing.Level it -> {
                if (isKnown(scene, (it.gets() ? "gets" : "loses") + "-level.level", Sort.LEVEL, it.level())) {
                    happens(
                            who(scene),
                            it.gets() ? new Happening.LevelStarted(it.level()) : new Happening.LevelEnded(it.level()));
                }
            }
            case Doing.Tag it -> {
                if (isKnown(scene, (it.gets() ? "gets" : "loses") + "-tag.tag", Sort.TAG, it.tag())) {
                    happens(
                            who(scene),
                            it.gets() ? new Happening.TagAdded(it.tag()) : new Happening.TagRemoved(it.tag()));
                }
            }
            case Doing.IsGiven it -> isGiven(scene, it);
            case Doing.IsEnded it ->
                last(scene, "is-ended", "grant", grants, it.grant(), true)
                        .ifPresent(one -> happens(one.person, new Happening.GrantEnded(one.id)));
            case Doing.Joins it -> joins(scene, it);
            case Doing.LetIn it -> order(scene, "let-in", it.order(), true).ifPresent(this::letIn);
            case Doing.Expects it -> expectations.check(scene, it.expectation());
            case Doing.Nothing _ -> {}
        }
    }

    private void buys(Scene scene, Doing.Buys buys) {
        var place = scene.place() + ".buys";
        var lines = new ArrayList<OrderLine>();
        boolean inParts = false;
        for (int at = 0; at < buys.lines().size(); at++) {
            var item = buys.lines().get(at);
            var its = place + ".lines[" + at + "]";
            var product = product(its, item.product(), item.option());
            inParts = inParts
                    || product.filter(one -> one.billing() instanceof Billing.Instalments)
                            .isPresent();
            lines.add(new OrderLine(
                    String.valueOf(at + 1),
                    item.product(),
                    item.option(),
                    item.quantity(),
                    amount(item, product, buys.pays()),
                    item.giftTo() == null ? null : address(its + ".giftTo", item.giftTo())));
        }
        if (buys.pays() == Doing.Pays.IN_PARTS && !inParts) {
            fault(place + ".pays", "nothing of the order is sold in instalments");
        }
        var person = who(scene);
        boolean waits = buys.as() == Doing.As.GUEST && around.guestsAreHeld() && !isKnown(person);
        var order = new Bought("o%04d".formatted(orders.size() + 1), person, List.copyOf(lines), waits);
        orders.add(order);
        about(
                order,
                new Happening.OrderPlaced(
                        order.id, Channel.SHOP, index.rulebook().school().currency(), lines));
        if (buys.pays() == Doing.Pays.NOW || buys.pays() == Doing.Pays.IN_PARTS) {
            about(order, new Happening.OrderPaid(order.id));
        }
    }

    private BigDecimal amount(Doing.Item item, Optional<Product> product, Doing.Pays pays) {
        int digits = new MinorUnits(index.rulebook().school().currency()).digits();
        if (pays == Doing.Pays.ZERO) {
            return BigDecimal.ZERO.setScale(digits);
        }
        if (item.amount() != null) {
            return item.amount();
        }
        var price = product.filter(one -> one.billing() instanceof Billing.Free).isPresent()
                ? BigDecimal.ZERO
                : around.prices()
                        .of(item.product(), Optional.ofNullable(item.option()))
                        .orElse(USUAL);
        var whole = price.multiply(BigDecimal.valueOf(item.quantity()));
        return whole.setScale(Math.max(whole.scale(), digits), RoundingMode.UNNECESSARY);
    }

    private void turns(Scene scene, Doing.Turns turns) {
        var word = turns.turn().name().toLowerCase(Locale.ROOT);
        order(scene, word, turns.order(), true)
                .ifPresent(order -> about(
                        order,
                        switch (turns.turn()) {
                            case PAYS -> new Happening.OrderPaid(order.id);
                            case FULFILS -> new Happening.OrderFulfilled(order.id);
                            case CANCELS -> new Happening.OrderCancelled(order.id);
                        }));
    }

    private void part(Scene scene, Doing.Part part) {
        var word = part.isPaid() ? "pays-part" : "fails-part";
        order(scene, word, part.order(), true)
                .ifPresent(order -> (part.line() != null
                                ? line(scene, word, order, part.line())
                                : order.lines.stream().filter(this::isInParts).findFirst())
                        .ifPresentOrElse(
                                line -> about(
                                        order,
                                        part.isPaid()
                                                ? new Happening.InstalmentPaid(order.id, line.line(), part.number())
                                                : new Happening.InstalmentFailed(order.id, line.line(), part.number())),
                                () -> {
                                    if (part.line() == null) {
                                        fault(
                                                scene.place() + "." + word,
                                                "nothing of order " + order.id + " is sold in instalments");
                                    }
                                }));
    }

    private boolean isInParts(OrderLine line) {
        return index.product(line.product())
                .filter(product -> product.billing() instanceof Billing.Instalments)
                .isPresent();
    }

    private void claims(Scene scene, Doing.Claims claims) {
        order(scene, "claims", claims.order(), false)
                .ifPresent(order -> line(scene, "claims", order, claims.line()).ifPresent(named -> {
                    var among = claims.line() == null ? order.lines : List.of(named);
                    among.stream()
                            .flatMap(line -> seat(order, line, claims.seat()).stream())
                            .findFirst()
                            .ifPresentOrElse(
                                    seat -> {
                                        order.claimed.add(seat);
                                        add(
                                                order,
                                                fact(
                                                        who(scene),
                                                        new Happening.GiftClaimed(
                                                                order.id, seat.line(), seat.number())));
                                    },
                                    () -> fault(
                                            scene.place() + ".claims",
                                            claims.seat() == null
                                                    ? "order " + order.id + " has no seat or gift that is free"
                                                    : "order %s has no seat %d to claim"
                                                            .formatted(order.id, claims.seat())));
                }));
    }

    /** The seat of a line that is meant, where it has it. */
    private Optional<Order.Seat> seat(Bought order, OrderLine line, @Nullable Integer wanted) {
        var product = index.product(line.product()).orElse(null);
        if (product == null) {
            return Optional.empty();
        }
        if (wanted != null) {
            return Purchase.canBeClaimed(line, product, wanted)
                    ? Optional.of(new Order.Seat(line.line(), wanted))
                    : Optional.empty();
        }
        return IntStream.rangeClosed(Purchase.firstToClaim(line), Purchase.seats(line, product))
                .mapToObj(number -> new Order.Seat(line.line(), number))
                .filter(seat -> !order.claimed.contains(seat))
                .findFirst();
    }

    private void subscribes(Scene scene, Doing.Subscribes subscribes) {
        var place = scene.place() + ".subscribes";
        product(place, subscribes.product(), subscribes.option()).ifPresent(product -> {
            if (!(product.billing() instanceof Billing.Recurring billing)) {
                fault(place + ".product", "`" + product.id() + "` is not paid again and again");
                return;
            }
            var trial = subscribes.trial();
            var paidThrough = calendar.plus(now, trial == null ? billing.every() : trial);
            var one = new Paying("s%04d".formatted(subscriptions.size() + 1), who(scene), billing.every(), paidThrough);
            subscriptions.add(one);
            happens(
                    one.person,
                    new Happening.SubscriptionStarted(
                            one.id, product.id(), subscribes.option(), paidThrough, trial != null));
        });
    }

    private void renews(Paying one) {
        var from = one.paidThrough.isAfter(now) ? one.paidThrough : now;
        one.paidThrough = calendar.plus(from, one.every);
        happens(one.person, new Happening.SubscriptionRenewed(one.id, one.paidThrough));
    }

    private void isGiven(Scene scene, Doing.IsGiven given) {
        boolean isKnown = true;
        for (int at = 0; at < given.to().size(); at++) {
            var to = given.to().get(at);
            if (!index.knows(to)) {
                fault(scene.place() + ".is-given.to[" + at + "]", unknown(to));
                isKnown = false;
            }
        }
        var grant = new Granted("g%04d".formatted(grants.size() + 1), who(scene));
        grants.add(grant);
        if (isKnown) {
            happens(grant.person, new Happening.GrantGiven(grant.id, given.to(), given.length(), script.title()));
        }
    }

    private static String unknown(Destination to) {
        return "there is no `" + to.place() + "`, or not all that it names";
    }

    private void joins(Scene scene, Doing.Joins joins) {
        var into = who(scene);
        var place = scene.place() + ".joins.person";
        if (!people.containsKey(joins.person())) {
            nobody(place, joins.person());
        } else if (joins.person().equals(into)) {
            fault(place, "`" + into + "` cannot be joined into themselves");
        } else {
            happens(joins.person(), new Happening.PersonMerged(into));
            var from = root(joins.person());
            var to = root(into);
            if (!from.equals(to)) {
                joined.put(from, to);
            }
        }
    }

    private void letIn(Bought order) {
        order.isHeld = false;
        facts.addAll(order.waiting);
        order.waiting.forEach(fact -> known.add(fact.subject()));
        order.waiting.clear();
    }

    /** Who somebody is by now. */
    private String root(String person) {
        return joined.containsKey(person) ? root(joined.get(person)) : person;
    }

    private boolean isKnown(String person) {
        return known.stream().anyMatch(one -> root(one).equals(root(person)));
    }

    private String who(Scene scene) {
        return scene.who() != null ? scene.who() : script.people().getFirst().id();
    }

    private Fact fact(String subject, Happening happening) {
        var id = "%04d/%d".formatted(position, facts.size() + held.size() + 1);
        return new Fact(new FactId(SOURCE, id), subject, now, happening);
    }

    private void happens(String subject, Happening happening) {
        facts.add(fact(subject, happening));
        known.add(subject);
    }

    private void about(Bought order, Happening happening) {
        add(order, fact(order.person, happening));
    }

    private void add(Bought order, Fact fact) {
        if (order.isHeld) {
            held.add(fact);
            order.waiting.add(fact);
        } else {
            facts.add(fact);
            known.add(fact.subject());
        }
    }

    private Optional<Bought> order(Scene scene, String word, @Nullable Integer number, boolean ofWho) {
        return last(scene, word, "order", orders, number, ofWho);
    }

    private Optional<Paying> subscription(Scene scene, String word, @Nullable Integer number) {
        return last(scene, word, "subscription", subscriptions, number, true);
    }

    /** The one of that number, else the last, of whoever is named. */
    private <T extends Owned> Optional<T> last(
            Scene scene, String word, String key, List<T> all, @Nullable Integer number, boolean ofWho) {
        var place = scene.place() + "." + word;
        if (number != null) {
            if (number > all.size()) {
                fault(
                        place + "." + key,
                        "there is no %s %d by then; the story has %d so far".formatted(key, number, all.size()));
                return Optional.empty();
            }
            return Optional.of(all.get(number - 1));
        }
        var of = ofWho ? scene.who() : null;
        var found = all.reversed().stream()
                .filter(one -> of == null || root(one.person()).equals(root(of)))
                .findFirst();
        if (found.isEmpty() && (of == null || people.containsKey(of))) {
            fault(place, "there is no " + key + (of == null ? "" : " of " + of) + " by then");
        }
        return found;
    }

    /** The line of that number; the first where none is named. */
    private Optional<OrderLine> line(Scene scene, String word, Bought order, @Nullable Integer number) {
        if (number != null && number > order.lines.size()) {
            fault(
                    scene.place() + "." + word + ".line",
                    "order %s has no line %d; it has %d".formatted(order.id, number, order.lines.size()));
            return Optional.empty();
        }
        return Optional.of(order.lines.get(number == null ? 0 : number - 1));
    }

    private Optional<Product> product(String place, String id, @Nullable String option) {
        var product = index.product(id);
        if (product.isEmpty()) {
            faults.add(Unusable.noSuch(place + ".product", "product", id, ids(Sort.PRODUCT)));
        } else if (option != null && !product.get().hasOption(option)) {
            faults.add(Unusable.noSuch(
                    place + ".option",
                    "option of " + id,
                    option,
                    product.get().options().stream().map(Option::id).toList()));
        }
        return product;
    }

    private String address(String place, String giftTo) {
        var player = people.get(giftTo);
        if (player == null && !giftTo.contains("@")) {
            nobody(place, giftTo);
        }
        return player == null ? giftTo : player.address();
    }

    private boolean isKnown(Scene scene, String key, Sort sort, String id) {
        boolean isKnown = ids(sort).contains(id);
        if (!isKnown) {
            faults.add(Unusable.noSuch(scene.place() + "." + key, sort.one(), id, ids(sort)));
        }
        return isKnown;
    }

    private Collection<String> ids(Sort sort) {
        return index.rulebook().all(sort).stream().map(Thing::id).toList();
    }

    private void nobody(String place, String id) {
        faults.add(Unusable.noSuch(place, "person", id, people.keySet()));
    }

    private void fault(String place, String problem) {
        faults.add(Unusable.of(place, problem));
    }
}
