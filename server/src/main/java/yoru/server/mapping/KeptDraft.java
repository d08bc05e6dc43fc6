package yoru.server.mapping;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** What one operator has changed and not published, as their browser wrote it down. */
@Entity
@Table(name = "kept_draft")
class KeptDraft {

    @Id
    String email;

    String name = "";

    /** Nothing where there is none any more; the revision goes on. */
    @Nullable
    String draft;

    /** The first of what it changes, in words. */
    String[] places = {};

    int many;
    int revision;
    Instant keptAt = Instant.EPOCH;

    @SuppressWarnings("NullAway.Init")
    protected KeptDraft() {}

    KeptDraft(String email) {
        this.email = email;
    }
}
