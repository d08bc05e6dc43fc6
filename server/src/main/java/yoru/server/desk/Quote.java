package yoru.server.desk;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Objects;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** An order by hand that somebody was offered and has not agreed to yet: it opens nothing, and no list of orders has it. */
@Entity
@Table(name = "quote")
class Quote {

    enum State {
        OPEN,
        AGREED,
        DECLINED
    }

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    /** Made by the browser, so that one sent twice is made once. */
    String key;

    String personKey;
    String name;

    /** The {@link ActSheet} of the order, as JSON. */
    @JdbcTypeCode(SqlTypes.JSON)
    String sheet;

    BigDecimal total;
    String currency;

    @Nullable
    LocalDate validUntil;

    @Enumerated(EnumType.STRING)
    State state = State.OPEN;

    Instant madeAt;
    String madeBy;

    @Nullable
    Instant decidedAt;

    @Nullable
    String decidedBy;

    @Nullable
    String orderId;

    @SuppressWarnings("NullAway.Init")
    protected Quote() {}

    long id() {
        return Objects.requireNonNull(id);
    }

    void decide(State decided, String operator, Instant at) {
        state = decided;
        decidedBy = operator;
        decidedAt = at;
    }
}
