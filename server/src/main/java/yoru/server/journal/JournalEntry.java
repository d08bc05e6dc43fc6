package yoru.server.journal;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** One line of the journal. */
@Entity
@Table(name = "journal_entry")
class JournalEntry {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    Instant at;

    @Enumerated(EnumType.STRING)
    Kind kind;

    String title;

    @Column(name = "said")
    String text;

    @Nullable
    String actor;

    @Nullable
    Long personId;

    /** The fact from which it followed. */
    @Nullable
    Long factSeq;

    /** The account of the operator who did it, and its address then; what they are called can change. */
    @Nullable
    UUID accountId;

    @Nullable
    String accountAddress;

    @SuppressWarnings("NullAway.Init")
    protected JournalEntry() {}

    JournalEntry(
            Instant at,
            Kind kind,
            String title,
            String text,
            @Nullable String actor,
            @Nullable Long personId,
            @Nullable Long factSeq) {
        this.at = at;
        this.kind = kind;
        this.title = title;
        this.text = text;
        this.actor = actor;
        this.personId = personId;
        this.factSeq = factSeq;
    }
}
