package yoru.server.segments;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** A segment that is kept under a name. */
@Entity
@Table(name = "segment")
class SavedSegment {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String name;

    /** {@link SegmentSheet} as JSON. */
    String document;

    Instant changedAt;
    String changedBy;

    @SuppressWarnings("NullAway.Init")
    SavedSegment() {}

    long id() {
        return Objects.requireNonNull(id);
    }
}
