package yoru.core.desk;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Choices;
import yoru.core.access.Engine;
import yoru.core.desk.Decision.Refusal;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.money.MinorUnits;
import yoru.core.orders.OrderAccount;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.time.SchoolCalendar;

/** Decides about acts, knowing all facts that can matter for those whom they concern. */
public final class Desk {

    /** The source of the facts that come from here. */
    public static final String SOURCE = "/yoru/desk";

    /** As in RFC 5321, 4.1.2, without quoting; what is finer is left to the system that sends a letter. */
    private static final Pattern ADDRESS = Pattern.compile("[^\\s@\"<>]{1,64}@[^\\s@\"<>.]+(\\.[^\\s@\"<>.]+)+");

    private static final int MOST_ITEMS = 100;
    private static final int MOST_OF_ONE = 1_000;

    private final Engine engine;
    private final RulebookIndex index;
    private final SchoolCalendar calendar;
    private final Ledger known;
    private final Histories histories;
    private final Instant now;

    /** @param ledger facts with a later time than {@code now} are left out */
    public Desk(Engine engine, Ledger ledger, Instant now) {
        this.engine = engine;
        this.index = engine.index();
        this.calendar = engine.calendar();
        this.known = ledger.asOf(now);
        this.histories = Histories.of(known);
        this.now = now;
    }

    /** Whether a text can be somebody's e-mail address. */
    public static boolean isAddress(String text) {
        return ADDRESS.matcher(text).matches();
    }

    /** @param key tells this act from all others; the ids of its facts begin with it */
    public Decision decide(Act act, String key) {
        var decided = new Deciding(key);
        decided.act(act);
        return new Decision(decided.refusals.isEmpty() ? decided.facts : List.of(), decided.refusals);
    }

    /** The courses for which the person's allowance has a place left. */
    public List<String> choosable(String person) {
        return engine.choices(histories.person(person), now).left() <= 0
                ? List.of()
                : index.rulebook().courses().stream()
                        .map(Course::id)
                        .filter(course ->
                                !decide(new Act.Choose(person, course), "asked").isRefused())
                        .toList();
    }

    /** One act being decided. */
    private final class Deciding {

        private final String key;
        private final List<Fact> facts = new ArrayList<>();
        private final List<Refusal> refusals = new ArrayList<>();

        Deciding(String key) {
            this.key = key;
        }

        private void fact(String subject, Happening happening) {
            facts.add(new Fact(new FactId(SOURCE, key + "/" + (facts.size() + 1)), subject, now, happening));
        }

        private void refuse(String field, String problem) {
            refusals.add(new Refusal(field, problem));
        }

        private void refuseIf(boolean wrong, String field, String problem) {
            if (wrong) {
                refuse(field, problem);
            }
        }

        void act(Act act) {
            switch (act) {
                case Act.AboutOrder it ->
                    histories
                            .order(it.order())
                            .ifPresentOrElse(
                                    order -> aboutOrder(it, order),
                                    () -> refuse("order", "There is no order " + it.order() + "."));
                case Act.AboutPerson it -> aboutPerson(it);
            }
        }

        private void aboutOrder(Act.AboutOrder act, Order order) {
            switch (act) {
                case Act.Pay it -> pay(it, order);
                case Act.PayInstalment it -> payInstalment(it, order);
                case Act.Invoice it -> {
                    refuseIf(it.number().isBlank(), "number", "An invoice has a number.");
                    refuseIf(isBeforeToday(it.payBy()), "payBy", "This day is over.");
                    fact(
                            order.placed().subject(),
                            new Happening.OrderInvoiced(order.id(), it.number().strip(), it.payBy()));
                }
                case Act.Fulfil _ -> {
                    refuseIf(order.fulfilled().isPresent(), "", "It is fulfilled already.");
                    refuseIf(order.cancelled().isPresent(), "", "It was cancelled.");
                    fact(order.placed().subject(), new Happening.OrderFulfilled(order.id()));
                }
                case Act.Cancel _ -> {
                    refuseIf(order.cancelled().isPresent(), "", "It is cancelled already.");
                    fact(order.placed().subject(), new Happening.OrderCancelled(order.id()));
                }
                case Act.Refund it -> refund(it, order);
                case Act.Claim it -> claim(it, order);
                case Act.Assign it -> assign(it, order);
            }
        }

        private void pay(Act.Pay act, Order order) {
            refuseIf(order.paid().isPresent(), "", "It is paid already.");
            refuseIf(order.cancelled().isPresent(), "", "It was cancelled.");
            refuseIf(order.total().signum() == 0, "", "It costs nothing.");
            fact(
                    order.placed().subject(),
                    new Happening.OrderPaid(
                            order.id(), act.method().strip(), act.reference().strip()));
        }

        private void payInstalment(Act.PayInstalment act, Order order) {
            var account = new OrderAccount(order, engine);
            var due = order.line(act.line()).stream()
                    .flatMap(line -> account.dues(line).stream())
                    .filter(it -> it.number() == act.number())
                    .findFirst();
            refuseIf(due.isEmpty(), "number", "There is no such instalment.");
            refuseIf(due.flatMap(it -> it.paid()).isPresent(), "number", "It is paid already.");
            fact(order.placed().subject(), new Happening.InstalmentPaid(order.id(), act.line(), act.number()));
        }

        private void refund(Act.Refund act, Order order) {
            var account = new OrderAccount(order, engine);
            refuseIf(act.line() != null && order.line(act.line()).isEmpty(), "line", "The order has no such line.");
            var sums = act.line() == null ? account.sums() : account.sums(act.line());
            var left = sums.paid().subtract(sums.givenBack());
            if (act.amount() != null) {
                amount("amount", act.amount(), order.details().currency());
                refuseIf(act.amount().signum() == 0, "amount", "Nothing would be given back.");
                refuseIf(
                        act.amount().compareTo(left) > 0,
                        "amount",
                        "At most %s is left of what was paid.".formatted(left.toPlainString()));
            } else if (sums.amount().signum() > 0) {
                refuseIf(
                        left.signum() == 0,
                        "",
                        "Nothing is left of what was paid. To end what is not paid, cancel it.");
            }
            fact(
                    order.placed().subject(),
                    new Happening.OrderRefunded(
                            order.id(), act.line(), act.amount(), act.reason().strip()));
        }

        private void claim(Act.Claim act, Order order) {
            address("person", act.person());
            var line = order.line(act.line());
            var seat = new Order.Seat(act.line(), act.seat());
            boolean exists = line.isPresent()
                    && new OrderAccount(order, engine).seats(line.get()).contains(seat);
            refuseIf(!exists, "seat", "The order has no such seat.");
            refuseIf(order.claims().containsKey(seat), "seat", "Somebody has taken it already.");
            refuseIf(order.cancelled().isPresent(), "", "The order was cancelled.");
            fact(act.person(), new Happening.GiftClaimed(order.id(), act.line(), act.seat()));
        }

        private void assign(Act.Assign act, Order order) {
            refuseIf(act.people().isEmpty(), "people", "Name somebody.");
            refuseIf(order.cancelled().isPresent(), "", "The order was cancelled.");
            var account = new OrderAccount(order, engine);
            var free = order.line(act.line()).stream()
                    .flatMap(line -> account.free(line).stream())
                    .toList();
            refuseIf(
                    act.people().size() > free.size(),
                    "people",
                    "%d seats are left for %d people."
                            .formatted(free.size(), act.people().size()));
            for (int at = 0; at < act.people().size(); at++) {
                var person = act.people().get(at);
                address("people[" + at + "]", person);
                refuseIf(
                        act.people().indexOf(person) < at || hasSeat(order, act.line(), person),
                        "people[" + at + "]",
                        person + " has a seat already.");
                if (refusals.isEmpty()) {
                    fact(
                            person,
                            new Happening.GiftClaimed(
                                    order.id(), act.line(), free.get(at).number()));
                }
            }
        }

        private boolean hasSeat(Order order, String line, String person) {
            return order.claims().entrySet().stream()
                    .anyMatch(claim -> claim.getKey().line().equals(line)
                            && claim.getValue().person().equals(histories.personOf(person)));
        }

        private void aboutPerson(Act.AboutPerson act) {
            var history = histories.person(histories.personOf(act.person()));
            switch (act) {
                case Act.Sell it -> sell(it);
                case Act.Give it -> {
                    address("person", it.person());
                    reason(it.reason());
                    refuseIf(it.to().isEmpty(), "to", "Choose what to give.");
                    refuseIf(
                            it.to().stream().anyMatch(to -> !index.knows(to)), "to", "The mapping does not know this.");
                    refuseIf(it.length() != null && it.length().isZero(), "length", "It would end as it begins.");
                    fact(
                            it.person(),
                            new Happening.GrantGiven(
                                    key, it.to(), it.length(), it.reason().strip()));
                }
                case Act.Extend it -> extend(it, history);
                case Act.EndGrant it -> {
                    var grant = history.grants().stream()
                            .filter(given -> given.details().grant().equals(it.grant()))
                            .findFirst();
                    refuseIf(grant.isEmpty(), "grant", "Nothing of that name was given.");
                    refuseIf(grant.flatMap(given -> given.ended()).isPresent(), "grant", "It was ended already.");
                    fact(it.person(), new Happening.GrantEnded(it.grant()));
                }
                case Act.Choose it -> choose(it, history);
                case Act.Release it -> {
                    var choices = engine.choices(history, now);
                    refuseIf(!isChosen(choices, it.course()), "course", "It was not chosen.");
                    fact(it.person(), new Happening.CourseReleased(it.course()));
                }
                case Act.EndSubscription it -> {
                    refuseIf(
                            history.subscriptions().stream()
                                    .noneMatch(one -> one.id().equals(it.subscription())),
                            "subscription",
                            "There is no such subscription.");
                    fact(it.person(), new Happening.SubscriptionCancelled(it.subscription(), it.atPeriodEnd()));
                }
                case Act.StartLevel it -> {
                    refuseIf(index.level(it.level()).isEmpty(), "level", "There is no such level.");
                    fact(it.person(), new Happening.LevelStarted(it.level()));
                }
                case Act.EndLevel it -> {
                    refuseIf(
                            !isOutside(history.levels(), new Happening.LevelStarted(it.level())),
                            "level",
                            "It was not given by hand or by a system.");
                    fact(it.person(), new Happening.LevelEnded(it.level()));
                }
                case Act.ChangeLevel it -> changeLevel(it, history);
                case Act.AddTag it -> {
                    refuseIf(!index.knowsTag(it.tag()), "tag", "There is no such tag.");
                    fact(it.person(), new Happening.TagAdded(it.tag()));
                }
                case Act.RemoveTag it -> {
                    refuseIf(
                            !isOutside(history.tags(), new Happening.TagAdded(it.tag())),
                            "tag",
                            "It was not put on by hand or by a system.");
                    fact(it.person(), new Happening.TagRemoved(it.tag()));
                }
                case Act.Join it -> {
                    address("into", it.into());
                    refuseIf(it.person().equals(it.into()), "into", "This is the same person.");
                    refuseIf(
                            histories.mergedInto(it.person()).isPresent(),
                            "person",
                            "They are joined with somebody already.");
                    refuseIf(histories.isOnePerson(it.person(), it.into()), "into", "They are joined already.");
                    fact(it.person(), new Happening.PersonMerged(it.into()));
                }
                case Act.Part it -> {
                    var with = histories.mergedInto(it.person());
                    refuseIf(with.isEmpty(), "person", "They are not joined with anybody.");
                    with.ifPresent(into -> fact(it.person(), new Happening.PersonParted(into)));
                }
                case Act.Erase it -> {
                    refuseIf(
                            !histories.personOf(it.person()).equals(it.person()),
                            "person",
                            "They are joined with somebody: erase that one, or part them first.");
                    fact(it.person(), new Happening.PersonErased());
                }
            }
        }

        private void sell(Act.Sell act) {
            address("person", act.person());
            refuseIf(act.items().isEmpty(), "items", "Add a product.");
            refuseIf(
                    act.items().size() > MOST_ITEMS,
                    "items",
                    "At most %d products go into one order.".formatted(MOST_ITEMS));
            var currency = index.rulebook().school().currency();
            var lines = new ArrayList<OrderLine>();
            var subscriptions = new ArrayList<Happening>();
            for (int at = 0; at < act.items().size(); at++) {
                var item = act.items().get(at);
                var place = "items[" + at + "].";
                var product = index.product(item.product()).orElse(null);
                refuseIf(product == null, place + "product", "There is no such product.");
                refuseIf(
                        product != null && item.option() != null && !product.hasOption(item.option()),
                        place + "option",
                        "The product has no such option.");
                refuseIf(
                        item.quantity() < 1 || item.quantity() > MOST_OF_ONE,
                        place + "quantity",
                        "From 1 to %d.".formatted(MOST_OF_ONE));
                amount(place + "price", item.price(), currency);
                amount(place + "off", item.off(), currency);
                var full = item.price().multiply(BigDecimal.valueOf(Math.max(1, item.quantity())));
                refuseIf(item.off().compareTo(full) > 0, place + "off", "More is taken off than it costs.");
                if (item.giftTo() != null) {
                    address(place + "giftTo", item.giftTo());
                    refuseIf(item.giftTo().equals(act.person()), place + "giftTo", "A gift is for somebody else.");
                }
                if (refusals.isEmpty() && product != null) {
                    var amount =
                            act.payment() instanceof Act.Payment.Free ? BigDecimal.ZERO : full.subtract(item.off());
                    var line = String.valueOf(at + 1);
                    lines.add(new OrderLine(
                            line,
                            item.product(),
                            item.option(),
                            item.quantity(),
                            amount,
                            item.giftTo(),
                            item.giftOn(),
                            full.compareTo(amount) == 0 ? null : full));
                    subscription(act, product, item, line).ifPresent(subscriptions::add);
                }
            }
            var payBy = act.payment() instanceof Act.Payment.Later it ? it.payBy() : null;
            refuseIf(isBeforeToday(payBy), "payment.payBy", "This day is over.");
            var reason =
                    act.payment() instanceof Act.Payment.Free it ? it.reason().strip() : "";
            refuseIf(
                    act.payment() instanceof Act.Payment.Free && reason.isEmpty(),
                    "payment.reason",
                    "Say why it is free of charge.");
            fact(act.person(), new Happening.OrderPlaced(act.order(), Channel.HAND, currency, lines, payBy, reason));
            switch (act.payment()) {
                case Act.Payment.Free _ -> {}
                case Act.Payment.OnFile _ ->
                    refuseIf(
                            lines.stream().allMatch(line -> line.amount().signum() == 0),
                            "payment",
                            "It costs nothing: there is nothing to charge.");
                case Act.Payment.Already it ->
                    fact(
                            act.person(),
                            new Happening.OrderPaid(
                                    act.order(),
                                    it.method().strip(),
                                    it.reference().strip()));
                case Act.Payment.Later it -> {
                    if (it.opensNow()) {
                        fact(act.person(), new Happening.OrderFulfilled(act.order()));
                    }
                }
            }
            subscriptions.forEach(it -> fact(act.person(), it));
        }

        /** What is paid again and again begins with the order that is paid, or costs nothing, or opens at once. */
        private Optional<Happening> subscription(Act.Sell act, Product product, Act.Item item, String line) {
            boolean begins = switch (act.payment()) {
                case Act.Payment.Free _, Act.Payment.Already _ -> true;
                case Act.Payment.Later it -> it.opensNow();
                case Act.Payment.OnFile _ -> false;
            };
            return product.billing() instanceof Billing.Recurring plan && begins && item.giftTo() == null
                    ? Optional.of(new Happening.SubscriptionStarted(
                            act.order() + "-" + line,
                            item.product(),
                            item.option(),
                            calendar.plus(now, plan.every()),
                            false))
                    : Optional.empty();
        }

        private void extend(Act.Extend act, History history) {
            reason(act.reason());
            refuseIf(act.by().isZero() || act.by().isNegative(), "by", "Nothing would be added.");
            var open = engine.access(history, now).stream()
                    .filter(one ->
                            one.target().equals(act.target()) && one.state().isOpen())
                    .findFirst();
            refuseIf(open.isEmpty(), "target", "It is not open: give it instead.");
            var end = open.map(Access::window).flatMap(window -> window.end());
            refuseIf(open.isPresent() && end.isEmpty(), "target", "It has no end.");
            if (end.isPresent()) {
                fact(
                        act.person(),
                        new Happening.GrantGiven(
                                key,
                                List.of(Destination.to(act.target())),
                                null,
                                calendar.plus(end.get(), act.by()),
                                null,
                                act.reason().strip()));
            }
        }

        private void changeLevel(Act.ChangeLevel act, History history) {
            reason(act.reason());
            var choices = engine.choices(history, now);
            refuseIf(
                    act.returned().stream().anyMatch(course -> !isChosen(choices, course)),
                    "returned",
                    "One of the courses was not chosen.");
            var outcome = LevelChange.of(act, history, engine, now, key);
            refusals.addAll(outcome.refusals());
            outcome.happenings().forEach(happening -> fact(act.person(), happening));
        }

        private void choose(Act.Choose act, History history) {
            refuseIf(index.course(act.course()).isEmpty(), "course", "There is no such course.");
            refuseIf(isChosen(engine.choices(history, now), act.course()), "course", "It is chosen already.");
            fact(act.person(), new Happening.CourseChosen(act.course()));
            if (refusals.isEmpty()) {
                var with = new ArrayList<>(known.facts());
                with.addAll(facts);
                var after = engine.choices(Histories.of(Ledger.of(with)).person(histories.personOf(act.person())), now);
                refuseIf(after.waiting().contains(act.course()), "course", "The allowance has no place left for it.");
            }
        }

        private static boolean isChosen(Choices choices, String course) {
            return choices.waiting().contains(course)
                    || choices.places().stream()
                            .anyMatch(places -> places.taken().contains(course));
        }

        /** Whether the last that was said about it outside says that it is held. */
        private static boolean isOutside(List<Fact> facts, Happening held) {
            return facts.stream()
                    .filter(fact -> isAbout(fact.happening(), held))
                    .reduce((first, later) -> later)
                    .filter(fact -> fact.happening().equals(held))
                    .isPresent();
        }

        private static boolean isAbout(Happening happening, Happening held) {
            return (held instanceof Happening.OfLevel it
                            && happening instanceof Happening.OfLevel other
                            && other.level().equals(it.level()))
                    || (held instanceof Happening.OfTag tag
                            && happening instanceof Happening.OfTag another
                            && another.tag().equals(tag.tag()));
        }

        private boolean isBeforeToday(@Nullable LocalDate day) {
            return day != null && day.isBefore(LocalDate.ofInstant(now, calendar.zone()));
        }

        private void address(String field, String text) {
            refuseIf(!isAddress(text), field, "This is no e-mail address.");
        }

        private void reason(String text) {
            refuseIf(text.isBlank(), "reason", "Say why: whoever looks later wants to know.");
        }

        private void amount(String field, BigDecimal amount, Currency currency) {
            refuseIf(amount.signum() < 0, field, "An amount is not negative.");
            refuseIf(
                    amount.stripTrailingZeros().scale() > new MinorUnits(currency).digits(),
                    field,
                    "%s has no parts that small.".formatted(currency.getCurrencyCode()));
        }
    }
}
