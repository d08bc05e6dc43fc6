package yoru.server.charges;

import jakarta.persistence.CollectionTable;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.OrderColumn;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a shop is to charge for an order; one at most for each. */
@Entity
@Table(name = "charge")
class OrderCharge {

    enum State {
        WAITING,
        PAID,
        REFUSED,
        /** The order was paid otherwise, or cancelled, before the shop answered. */
        LEFT
    }

    @Id
    String orderId;

    String connectionId;
    String personKey;

    /** As the shop calls it. */
    String method;

    /** As people know it. */
    String label;

    /** Which try of somebody's it is; each has a key of its own, for the same key is answered as before. */
    int attempt = 1;

    BigDecimal amount;
    String currency;

    @Enumerated(EnumType.STRING)
    State state = State.WAITING;

    /** What the shop said last. */
    String said = "";

    Instant askedAt;
    String askedBy;

    @Nullable
    Instant answeredAt;

    /** What came of each time it was asked. */
    @ElementCollection
    @CollectionTable(name = "charge_answer", joinColumns = @JoinColumn(name = "order_id"))
    @OrderColumn(name = "number")
    List<Answer> answers = new ArrayList<>();

    @Embeddable
    record Answer(
            Instant askedAt,
            String askedBy,
            Instant at,
            @Enumerated(EnumType.STRING) State state,
            String said) {}

    @SuppressWarnings("NullAway.Init")
    protected OrderCharge() {}

    String key() {
        return "yoru-charge-" + orderId + (attempt == 1 ? "" : "-" + attempt);
    }

    void askAgain(String operator, Instant at) {
        attempt++;
        state = State.WAITING;
        said = "";
        askedAt = at;
        askedBy = operator;
        answeredAt = null;
    }

    void answer(State became, String words, Instant at) {
        state = became;
        said = words;
        answeredAt = at;
        if (became != State.WAITING) {
            answers.add(new Answer(askedAt, askedBy, at, became, words));
        }
    }
}
