package yoru.server.ledger;

import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.ledger.LedgerService.Sold;

/** Counts people by what is said of them. */
@Service
public class LedgerFigures {

    private final FactTable facts;

    LedgerFigures(FactTable facts) {
        this.facts = facts;
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
