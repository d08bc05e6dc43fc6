package yoru.server.rulebooks;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.springframework.data.domain.Persistable;

/** A rulebook as it was published. Never changed afterwards. */
@Entity
@Table(name = "rulebook_version")
class RulebookVersion implements Persistable<Integer> {

    @Id
    Integer number;

    /** The whole rulebook, {@code yoru: rulebook/1}. */
    @JdbcTypeCode(SqlTypes.JSON)
    String document;

    String note;
    String publishedBy;
    Instant publishedAt;

    /** What differs from the version before, in words, a line each. */
    String difference;

    int gained;
    int lost;
    int otherEnd;

    /** Stories that did not come out as they should, a line each, and why it was published all the same. */
    String despite = "";

    String despiteWhy = "";

    @JdbcTypeCode(SqlTypes.JSON)
    Reach reach;

    @SuppressWarnings("NullAway.Init")
    protected RulebookVersion() {}

    Publish publish() {
        return new Publish(
                number,
                note,
                publishedBy,
                publishedAt,
                difference.lines().toList(),
                gained,
                lost,
                otherEnd,
                despite.lines().toList(),
                despiteWhy);
    }

    @Override
    public Integer getId() {
        return number;
    }

    /** Always: a version is inserted, never written over, whoever else took its number in between. */
    @Override
    public boolean isNew() {
        return true;
    }
}
