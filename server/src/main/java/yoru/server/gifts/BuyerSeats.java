package yoru.server.gifts;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.orders.OrderAccount;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SecretCode;
import yoru.server.platform.Sha256;
import yoru.server.rulebooks.Rulebooks;

/** The seats of an order as whoever bought them sees them, under a secret address. */
@Service
public class BuyerSeats {

    /** So that nobody is flooded with letters by somebody who has the address. */
    private static final Duration BETWEEN_LETTERS = Duration.ofMinutes(10);

    private final SeatLinks links;
    private final Gifts gifts;
    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Journal journal;
    private final SchoolSettings settings;
    private final Clock clock;

    BuyerSeats(
            SeatLinks links,
            Gifts gifts,
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            Journal journal,
            SchoolSettings settings,
            Clock clock) {
        this.links = links;
        this.gifts = gifts;
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
    }

    /**
     * A seat.
     *
     * @param free whether it can still be sent to somebody
     * @param sentTo where the letter about it went last
     */
    public record Seat(
            String line,
            String title,
            int number,
            boolean free,
            @Nullable String sentTo) {}

    public record Seats(String order, List<Seat> seats) {}

    /** Makes the address, and has one made before lead nowhere. */
    @Transactional
    public String link(String order, String operator) {
        var known = ledger.order(order, clock.instant())
                .orElseThrow(() -> ProblemException.notFound("No order " + order + "."));
        if (seats(known).isEmpty()) {
            throw new ProblemException(HttpStatus.CONFLICT, "It has no seats", "Nobody else can have anything of it.");
        }
        var code = SecretCode.make();
        links.save(new SeatLink(order, code.hash(), clock.instant(), operator));
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "An address made for the buyer's seats",
                "order " + order,
                operator,
                register.person(known.person()).map(person -> person.id()).orElse(null),
                null));
        return settings.publicAddress() + "/seats/" + code.text();
    }

    /** What there is under a code; nothing where there is no such code. */
    @Transactional(readOnly = true)
    public Optional<Seats> by(String code) {
        return links.findByHash(Sha256.of(code))
                .flatMap(link -> ledger.order(link.orderId, clock.instant()))
                .map(order -> new Seats(order.id(), seats(order)));
    }

    /** What there is of an order; nothing where it has none. */
    @Transactional(readOnly = true)
    public Optional<Seats> of(String order) {
        return ledger.order(order, clock.instant())
                .map(known -> new Seats(known.id(), seats(known)))
                .filter(it -> !it.seats.isEmpty());
    }

    private List<Seat> seats(Order order) {
        var account = new OrderAccount(order, rulebooks.current().engine());
        Map<Gift.Place, Gift> sent =
                gifts.of(order.id()).stream().collect(Collectors.toMap(Gift::place, Function.identity()));
        return order.details().lines().stream()
                .flatMap(line -> account.seats(line).stream().map(seat -> seat(order, line, seat, account, sent)))
                .toList();
    }

    private Seat seat(Order order, OrderLine line, Order.Seat seat, OrderAccount account, Map<Gift.Place, Gift> sent) {
        var gift = sent.get(new Gift.Place(order.id(), line.line(), seat.number()));
        return new Seat(
                line.line(),
                rulebooks.current().rulebook().titleOfProduct(line.product()),
                seat.number(),
                account.isFree(line, seat),
                gift == null || gift.state != Gift.State.SENT ? null : gift.address);
    }

    /** Sends a seat to an address. */
    @Transactional
    public void send(String order, String line, int number, String address) {
        boolean justSent = gifts.of(order).stream()
                .anyMatch(gift -> gift.line.equals(line)
                        && gift.seat == number
                        && gift.sentAt != null
                        && gift.sentAt.isAfter(clock.instant().minus(BETWEEN_LETTERS)));
        if (justSent) {
            throw new ProblemException(
                    HttpStatus.TOO_MANY_REQUESTS, "It was just sent", "Wait ten minutes before it is sent again.");
        }
        gifts.sendAgain(new Gift.Place(order, line, number), address, "the buyer");
    }
}
