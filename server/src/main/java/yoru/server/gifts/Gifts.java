package yoru.server.gifts;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.PersonKey;
import yoru.core.orders.OrderAccount;
import yoru.core.rulebook.Product;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.core.time.SchoolCalendar;
import yoru.server.deliveries.Deliveries;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactDue;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.AtEnd;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Queue;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SecretCode;
import yoru.server.platform.Sha256;
import yoru.server.policies.SchoolPolicies;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/** Sends gifts and seats to whom they are for, and knows which code opens which. */
@Service
class Gifts {

    static final TaskDescriptor<Void> SEND = TaskDescriptor.of("send-gift");

    /** A gift that opened longer ago is not sent by itself: the past of a new school, for example. */
    private static final Duration NEWS = Duration.ofDays(2);

    /** So long it waits for a mailbox to be on. */
    private static final Duration SENT_LATE = Duration.ofDays(7);

    /** At which hour of the school's day gifts go out. */
    private static final LocalTime MORNING = LocalTime.of(9, 0);

    /** 160 bits of chance: OWASP ASVS 5.0, 11.5.1 asks for 128. */
    private final GiftTable gifts;

    private final GiftCodes codes;
    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Deliveries deliveries;
    private final Landscapes landscapes;
    private final GiftLetter letters;
    private final SchoolPolicies policies;
    private final Journal journal;
    private final Queue queue;
    private final SchoolSettings settings;
    private final JsonMapper json;
    private final Clock clock;
    private final AtEnd<String> ordered = new AtEnd<>(this::offerAll);

    Gifts(
            GiftTable gifts,
            GiftCodes codes,
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            Deliveries deliveries,
            Landscapes landscapes,
            GiftLetter letters,
            SchoolPolicies policies,
            Journal journal,
            Queue queue,
            SchoolSettings settings,
            JsonMapper json,
            Clock clock) {
        this.gifts = gifts;
        this.codes = codes;
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.deliveries = deliveries;
        this.landscapes = landscapes;
        this.letters = letters;
        this.policies = policies;
        this.journal = journal;
        this.queue = queue;
        this.settings = settings;
        this.json = json;
        this.clock = clock;
    }

    /** Whether a seat can be taken up. */
    enum Claimable {
        YES,
        TAKEN,
        /** The letter is older than the school lets gifts be. */
        OVER
    }

    /** A seat that was offered, with what a stranger may know of it. */
    record Offered(Gift.Place place, String what, String from, String address, Claimable claimable) {
        boolean open() {
            return claimable == Claimable.YES;
        }

        private Offered over() {
            return open() ? new Offered(place, what, from, address, Claimable.OVER) : this;
        }
    }

    @EventListener
    void on(FactDue due) {
        offerIfOrdered(due.fact());
    }

    @EventListener
    void on(FactKept kept) {
        offerIfOrdered(kept.fact());
    }

    private void offerIfOrdered(Fact fact) {
        if (fact.happening() instanceof Happening.OfOrder it) {
            ordered.with(Set.of(it.order()));
        }
    }

    private void offerAll(Collection<String> orders) {
        var known = Histories.of(ledger.aboutOrders(orders).asOf(clock.instant()));
        orders.stream().distinct().flatMap(order -> known.order(order).stream()).forEach(this::offer);
    }

    /** Offers what of an order is a gift and has opened. */
    private void offer(Order order) {
        for (OrderLine line : order.details().lines()) {
            var address = line.giftTo();
            if (address.isPresent() && hasOpened(order, line)) {
                for (Order.Seat seat : free(order, line)) {
                    var place = new Gift.Place(order.id(), line.line(), seat.number());
                    if (!gifts.existsById(place)) {
                        var gift = gifts.save(new Gift(place, PersonKey.plain(address.get()), line.giftOn()));
                        sendByItself(gift, order);
                    }
                }
            }
        }
    }

    private void sendByItself(Gift gift, Order order) {
        var today = LocalDate.ofInstant(clock.instant(), settings.zone());
        if (gift.sendOn != null && gift.sendOn.isAfter(today)) {
            queue.at(
                    SEND,
                    gift.place().inWords(),
                    gift.sendOn.atTime(MORNING).atZone(settings.zone()).toInstant());
        } else if (order.placed().time().isAfter(clock.instant().minus(NEWS))) {
            queue.now(SEND, gift.place().inWords());
        }
    }

    /**
     * Sends it, if it still is to be taken up.
     *
     * @return false = nothing carries letters at the moment
     */
    @Transactional
    public boolean send(Gift.Place place) {
        var gift = gifts.findById(place).orElse(null);
        var offered = gift == null || gift.state != Gift.State.WAITING ? Optional.<Offered>empty() : offered(place);
        if (gift == null || offered.isEmpty()) {
            return true;
        }
        if (!landscapes.current().carriesLetters()) {
            return isStale(gift);
        }
        send(gift, offered.get());
        return true;
    }

    /** Whether nobody waits for it any more: it is sent by hand then, if at all. */
    private boolean isStale(Gift gift) {
        var since = gift.sendOn == null
                ? ledger.order(gift.orderId, clock.instant())
                        .map(order -> order.placed().time())
                        .orElse(Instant.EPOCH)
                : gift.sendOn.atTime(MORNING).atZone(settings.zone()).toInstant();
        return since.isBefore(clock.instant().minus(SENT_LATE));
    }

    /**
     * Sends a seat's letter, to another address where one is given.
     *
     * @return to which address
     */
    @Transactional
    public String sendAgain(Gift.Place place, @Nullable String address, String operator) {
        var offered = offered(place)
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.CONFLICT, "It cannot be sent", "Nobody can take this seat up any more."));
        var to = address == null || address.isBlank() ? offered.address : PersonKey.plain(address);
        if (to.isEmpty()) {
            throw new ProblemException(HttpStatus.BAD_REQUEST, "It cannot be sent", "Say to which address.");
        }
        if (!landscapes.current().carriesLetters()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "It cannot be sent", "No system that is on carries letters.");
        }
        var gift = gifts.save(gifts.findById(place).orElseGet(() -> new Gift(place, to, null)));
        gift.address = to;
        send(gift, offered);
        note("Gift sent", gift, operator);
        return to;
    }

    /** From now on no code opens it, until it is sent again. */
    @Transactional
    public void withdraw(Gift.Place place, String operator) {
        var gift =
                gifts.findById(place).orElseThrow(() -> ProblemException.notFound("Nothing was sent for this seat."));
        gift.state = Gift.State.WITHDRAWN;
        codes.deleteOf(place.orderId(), place.line(), place.seat());
        note("Gift withdrawn", gift, operator);
    }

    private void note(String what, Gift gift, String operator) {
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                what,
                "order %s, line %s, seat %d · %s".formatted(gift.orderId, gift.line, gift.seat, gift.address),
                operator,
                null,
                null));
    }

    private void send(Gift gift, Offered offered) {
        var code = SecretCode.make();
        codes.save(new GiftCode(code.hash(), gift.place(), clock.instant()));
        var receiver = register.know(gift.address);
        var until = endOf(clock.instant());
        deliveries.send(List.of(new Deliveries.Message(
                receiver.id(),
                Ability.MESSAGES,
                new Matter.Letter("gift-" + code.hash().substring(0, 32)),
                () -> json.writeValueAsString(
                        letters.of(offered, settings.publicAddress() + "/claim/" + code.text(), until)),
                null)));
        gift.state = Gift.State.SENT;
        gift.sentAt = clock.instant();
    }

    /** What a code opens; nothing where there is no such code. */
    @Transactional(readOnly = true)
    public Optional<Offered> by(String code) {
        return codes.findById(Sha256.of(code))
                .flatMap(known -> look(known.place()).map(gift -> isOver(known.madeAt) ? gift.over() : gift));
    }

    /** When what went out at a time can no longer be used; none = never. */
    private Optional<Instant> endOf(Instant sent) {
        return policies.inForce().giftEnds(sent, new SchoolCalendar(settings.zone()));
    }

    /** Whether what went out at a time can no longer be used. */
    @Transactional(readOnly = true)
    public boolean isOver(Instant sent) {
        return endOf(sent).filter(end -> !end.isAfter(clock.instant())).isPresent();
    }

    @Transactional(readOnly = true)
    public List<Gift> of(String order) {
        return gifts.findByOrderId(order);
    }

    private Optional<Offered> offered(Gift.Place place) {
        return look(place).filter(Offered::open);
    }

    private Optional<Offered> look(Gift.Place place) {
        return ledger.order(place.orderId(), clock.instant())
                .flatMap(order -> order.line(place.line())
                        .map(line -> new Offered(
                                place,
                                title(line),
                                giver(order),
                                gifts.findById(place)
                                        .map(gift -> gift.address)
                                        .orElse(PersonKey.plain(line.giftTo().orElse(""))),
                                account(order).isFree(line, new Order.Seat(place.line(), place.seat()))
                                        ? Claimable.YES
                                        : Claimable.TAKEN)));
    }

    private String title(OrderLine line) {
        return rulebooks.current().rulebook().titleOfProduct(line.product());
    }

    /** By name; an address is nobody's business. */
    private String giver(Order order) {
        return register.person(order.person())
                .filter(person -> !person.name().equals(person.key()))
                .map(Person::name)
                .orElse("somebody");
    }

    /** The seats that somebody else can still take. */
    private List<Order.Seat> free(Order order, OrderLine line) {
        return account(order).free(line);
    }

    private OrderAccount account(Order order) {
        return new OrderAccount(order, rulebooks.current().engine());
    }

    private boolean hasOpened(Order order, OrderLine line) {
        var engine = rulebooks.current().engine();
        Optional<Product> product = engine.index().product(line.product());
        return product.flatMap(known -> engine.purchase(order).openedAt(known)).isPresent();
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        var forgetting = forgotten.forgetting();
        for (Gift gift : gifts.findByAddressIn(forgetting.keys())) {
            gift.address = forgetting.text(gift.address);
            // there is nobody left to send it to; the giver can give it to somebody else
            gift.state = Gift.State.WITHDRAWN;
        }
    }
}
