package yoru.server.exchange;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import java.util.Set;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;
import yoru.formats.imports.ImportEntry;
import yoru.formats.imports.ImportKind;

/** A table of the past that is brought in. */
@Entity
@Table(name = "import_job")
class ImportJob {

    enum State {
        /** Its columns are being matched; nothing has become a fact. */
        MATCHING,
        RUNNING,
        DONE,
        /** Somebody stopped it; it can go on. */
        STOPPED
    }

    /** What became of a row. */
    enum RowState {
        /** Its facts are kept. */
        NEW,
        /** They were known before. */
        KNOWN,
        /** Something is wrong with it; nothing was kept. */
        FAULTY;

        /** @param known the numbers of the entries that were known before */
        static RowState of(ImportEntry entry, Set<Long> known) {
            return entry.isFaulty() ? FAULTY : known.contains(entry.number()) ? KNOWN : NEW;
        }
    }

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    @Enumerated(EnumType.STRING)
    ImportKind kind;

    String name;

    /** The heading, as a JSON array. */
    @JdbcTypeCode(SqlTypes.JSON)
    String columns;

    /** {@link yoru.formats.imports.ImportMatching} as JSON. */
    String matching;

    @Enumerated(EnumType.STRING)
    State state = State.MATCHING;

    int total;
    Instant madeAt;
    String madeBy;

    @Nullable
    Instant endedAt;

    @SuppressWarnings("NullAway.Init")
    ImportJob() {}

    long id() {
        return Objects.requireNonNull(id);
    }
}
