package yoru.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** A window of access as last computed: what lists and the date ruler count. Nothing decides by it. */
@Entity
@Table(name = "opening")
class Opening {

    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "opening_id")
    @SequenceGenerator(name = "opening_id", sequenceName = "opening_id_seq", allocationSize = 50)
    @Nullable
    Long id;

    long personId;
    String target;
    Instant opensAt;

    @Nullable
    Instant endsAt;

    /** Whether it only ends if a payment does not come. */
    boolean renews;

    @SuppressWarnings("NullAway.Init")
    protected Opening() {}

    Opening(long personId, String target, Instant opensAt, @Nullable Instant endsAt, boolean renews) {
        this.personId = personId;
        this.target = target;
        this.opensAt = opensAt;
        this.endsAt = endsAt;
        this.renews = renews;
    }

    boolean isSameAs(Opening other) {
        return target.equals(other.target)
                && opensAt.equals(other.opensAt)
                && Objects.equals(endsAt, other.endsAt)
                && renews == other.renews;
    }
}
