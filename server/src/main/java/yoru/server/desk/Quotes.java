package yoru.server.desk;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.PageRequest;
import org.springframework.data.domain.Sort;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Happening;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;

/** Orders by hand that people were offered: kept until they agree, which makes the order, or decline. */
@Service
public class Quotes {

    private static final int PAGE = 50;

    private final QuoteTable quotes;
    private final DeskService desk;
    private final Rulebooks rulebooks;
    private final Register register;
    private final Journal journal;
    private final JsonMapper json;
    private final Clock clock;

    Quotes(
            QuoteTable quotes,
            DeskService desk,
            Rulebooks rulebooks,
            Register register,
            Journal journal,
            JsonMapper json,
            Clock clock) {
        this.quotes = quotes;
        this.desk = desk;
        this.rulebooks = rulebooks;
        this.register = register;
        this.journal = journal;
        this.json = json;
        this.clock = clock;
    }

    /** @param expired whether the day until which it held is over */
    public record ListedQuote(
            long id,
            String person,
            String name,
            BigDecimal total,
            String currency,
            @Nullable LocalDate validUntil,
            boolean expired,
            Quote.State state,
            Instant madeAt,
            String madeBy,
            @Nullable String order) {}

    /** @param open how many wait for an answer */
    record QuoteList(int open, long total, int pageSize, List<ListedQuote> quotes) {}

    /** In what order they are listed; of what is the same the newest first. */
    enum Order {
        /** Those that wait for an answer first. */
        WAITING,
        NEWEST,
        /** Those first that end first. */
        UNTIL,
        TOTAL
    }

    private static Sort by(Order order) {
        var first = switch (order) {
            case WAITING -> Sort.by("state").descending();
            case NEWEST -> Sort.unsorted();
            case UNTIL -> Sort.by(Sort.Order.asc("validUntil").nullsLast());
            case TOTAL -> Sort.by("total").descending();
        };
        return first.and(Sort.by("id").descending());
    }

    /** @param sheet the order that it would become */
    public record ShownQuote(ListedQuote quote, List<QuotedLine> lines, ActSheet sheet) {}

    record QuotedLine(
            String title,
            int quantity,
            BigDecimal price,
            @Nullable BigDecimal off,
            @Nullable String giftTo) {}

    @Transactional(readOnly = true)
    QuoteList page(Order order, int page) {
        var found = quotes.findAll(PageRequest.of(page, PAGE, by(order)));
        return new QuoteList(
                quotes.countByState(Quote.State.OPEN),
                found.getTotalElements(),
                PAGE,
                found.map(this::listed).getContent());
    }

    @Transactional(readOnly = true)
    public ShownQuote one(long id) {
        return shown(quotes.findById(id).orElseThrow(() -> notFound(id)));
    }

    /** @param key tells this quote from all others; sent again, it makes none */
    @Transactional
    public ShownQuote make(String key, ActSheet sheet, @Nullable LocalDate validUntil, String operator) {
        var known = quotes.findByKey(key);
        if (known.isPresent()) {
            return shown(known.get());
        }
        var payment = sheet.payment();
        if (sheet.kind() != ActSheet.Kind.SELL || payment == null || !payment.isLater()) {
            throw new ProblemException(
                    HttpStatus.BAD_REQUEST,
                    "This is no quote",
                    "What is offered is an order that is to be paid later.");
        }
        var fact = desk.decide(desk.ask(sheet), DeskService.NOT_DONE).facts().getFirst();
        var placed = (Happening.OrderPlaced) fact.happening();
        var quote = new Quote();
        quote.key = key;
        quote.personKey = fact.subject();
        quote.name = Objects.requireNonNullElse(sheet.name(), "");
        quote.sheet = json.writeValueAsString(sheet);
        quote.total = placed.total();
        quote.currency = placed.currency().getCurrencyCode();
        quote.validUntil = validUntil;
        quote.madeAt = clock.instant();
        quote.madeBy = operator;
        quotes.saveAndFlush(quote);
        note("Quote made", quote, operator);
        return shown(quote);
    }

    /** Makes the order; agreed to twice it is made once. */
    @Transactional
    public ShownQuote agree(long id, String operator) {
        var quote = open(id, Quote.State.AGREED);
        if (quote.state == Quote.State.OPEN) {
            quote.orderId =
                    desk.act("quote-" + quote.key, sheet(quote), operator).order();
            quote.decide(Quote.State.AGREED, operator, clock.instant());
            note("Quote agreed to", quote, operator);
        }
        return shown(quote);
    }

    @Transactional
    public ShownQuote decline(long id, String operator) {
        var quote = open(id, Quote.State.DECLINED);
        if (quote.state == Quote.State.OPEN) {
            quote.decide(Quote.State.DECLINED, operator, clock.instant());
            note("Quote declined", quote, operator);
        }
        return shown(quote);
    }

    /** @param wanted what it may be already */
    private Quote open(long id, Quote.State wanted) {
        var quote = quotes.lock(id).orElseThrow(() -> notFound(id));
        if (quote.state != Quote.State.OPEN && quote.state != wanted) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "This quote is decided",
                    quote.state == Quote.State.AGREED
                            ? "It became order " + quote.orderId + "."
                            : "It was declined. Make a new one.");
        }
        return quote;
    }

    private static ProblemException notFound(long id) {
        return ProblemException.notFound("No quote " + id + ".");
    }

    private ActSheet sheet(Quote quote) {
        return json.readValue(quote.sheet, ActSheet.class);
    }

    private ListedQuote listed(Quote quote) {
        var today = LocalDate.ofInstant(
                clock.instant(), rulebooks.current().rulebook().school().zone());
        return new ListedQuote(
                quote.id(),
                quote.personKey,
                register.person(quote.personKey)
                        .map(Person::name)
                        .filter(name -> !name.equals(quote.personKey))
                        .orElse(quote.name.isEmpty() ? quote.personKey : quote.name),
                quote.total,
                quote.currency,
                quote.validUntil,
                quote.state == Quote.State.OPEN && quote.validUntil != null && quote.validUntil.isBefore(today),
                quote.state,
                quote.madeAt,
                quote.madeBy,
                quote.orderId);
    }

    private ShownQuote shown(Quote quote) {
        var sheet = sheet(quote);
        var rulebook = rulebooks.current().rulebook();
        return new ShownQuote(
                listed(quote),
                Objects.requireNonNullElse(sheet.items(), List.<ActSheet.ItemSheet>of()).stream()
                        .map(item -> new QuotedLine(
                                rulebook.titleOfProduct(item.product()),
                                item.quantity(),
                                item.price(),
                                item.off(),
                                item.giftTo()))
                        .toList(),
                sheet);
    }

    private void note(String what, Quote quote, String operator) {
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                what,
                "Quote %d · %s %s".formatted(quote.id(), quote.currency, quote.total.toPlainString()),
                operator,
                register.person(quote.personKey).map(Person::id).orElse(null),
                null));
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        quotes.forgetPeople(forgotten.keysAsJson());
    }
}
