package yoru.server.ledger;

import java.time.Clock;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Mention;

/** Counts and names people by what is said of them. */
@Service
public class LedgerFigures {

    private final FactTable facts;
    private final Clock clock;

    LedgerFigures(FactTable facts, Clock clock) {
        this.facts = facts;
        this.clock = clock;
    }

    /** How many people ordered a product. */
    public record Sold(String product, int buyers) {}

    /** What was sold and given back since a moment. */
    public record Count(long sold, long refunded) {}

    @Transactional(readOnly = true)
    public List<Sold> sold() {
        return facts.sold().stream()
                .map(row -> new Sold(row.getProduct(), row.getBuyers()))
                .toList();
    }

    /** Somebody who did something, and when last. */
    public record Somebody(long person, String name, Instant at) {}

    /**
     * Who did something.
     *
     * @param count how many they are
     * @param latest the last of them, the latest first
     */
    public record Several(int count, List<Somebody> latest) {}

    public static final Several NOBODY = new Several(0, List.of());

    @Transactional(readOnly = true)
    public Several buyers(String product, int most) {
        return buyers(facts.buyers(new Mention.OfProduct(product).key(), most));
    }

    /** How many orders of a month name a product. */
    public record Ordered(YearMonth month, int many) {}

    /** Months in a zone, the first first; those without an order are left out. */
    @Transactional(readOnly = true)
    public List<Ordered> orderedByMonth(String product, ZoneId zone) {
        return facts.orderedByMonth(new Mention.OfProduct(product).key(), zone.getId()).stream()
                .map(row -> new Ordered(YearMonth.parse(row.getMonth()), row.getMany()))
                .toList();
    }

    /** Who left a list and has not asked for it again, and when. */
    @Transactional(readOnly = true)
    public Several whoLeft(String list, int most) {
        return buyers(facts.whoLeft(list, clock.instant(), most));
    }

    private static Several buyers(List<FactTable.Somebody> rows) {
        return new Several(
                rows.isEmpty() ? 0 : rows.getFirst().getMany(),
                rows.stream()
                        .map(row -> new Somebody(
                                row.getPerson(), row.getName().isEmpty() ? row.getKey() : row.getName(), row.getAt()))
                        .toList());
    }

    @Transactional(readOnly = true)
    public Count since(Instant moment) {
        return new Count(
                facts.countSince("yoru.order.placed", moment), facts.countSince("yoru.order.refunded", moment));
    }

    @Transactional(readOnly = true)
    public Optional<Instant> lastSale() {
        return facts.lastSale();
    }

    /** How many people ordered more than one of a product at once. */
    @Transactional(readOnly = true)
    public List<Sold> soldSeveral() {
        return facts.soldSeveral().stream()
                .map(row -> new Sold(row.getProduct(), row.getBuyers()))
                .toList();
    }

    /** How many people bought as guests since a moment. */
    @Transactional(readOnly = true)
    public int guests(Instant since) {
        return facts.guests(since);
    }

    /** How many people are only known from tags, levels and finished courses. */
    @Transactional(readOnly = true)
    public int onlyContacts() {
        return facts.onlyContacts();
    }
}
