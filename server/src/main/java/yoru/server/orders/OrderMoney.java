package yoru.server.orders;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import yoru.core.orders.Movement;

/** One movement of an order's money. */
@Entity
@Table(name = "order_money")
class OrderMoney {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String orderId;
    Instant at;
    String line;

    @Enumerated(EnumType.STRING)
    Movement.Kind kind;

    BigDecimal amount;

    @SuppressWarnings("NullAway.Init")
    protected OrderMoney() {}

    OrderMoney(String orderId, Movement movement) {
        this.orderId = orderId;
        this.at = movement.at();
        this.line = movement.line();
        this.kind = movement.kind();
        this.amount = movement.amount();
    }
}
