package yoru.server.orders;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.Immutable;
import org.jspecify.annotations.Nullable;

/** An order in the list. Whole lists are written and read by {@link OrderTable}'s own questions, never one by one. */
@Entity
@Immutable
@Table(name = "order_row")
class ListedOrder {

    @Id
    @Nullable
    String id;

    @Nullable
    Instant placedAt;
}
