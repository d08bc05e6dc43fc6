package yoru.server.followups;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;
import yoru.core.followup.Followups.Decided;
import yoru.core.followup.RunKey;

/** One follow-up serving one occasion of somebody. */
@Entity
@Table(name = "followup_run")
class FollowupRun {

    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "followup_run_id")
    @SequenceGenerator(name = "followup_run_id", sequenceName = "followup_run_id_seq", allocationSize = 50)
    @Nullable
    Long id;

    long personId;

    /** The key under which it began. */
    String subject;

    String followup;
    String title;
    String occasion;

    @Nullable
    String orderId;

    /** The path of what it is about. */
    @Nullable
    String thing;

    /** What that is called. */
    String about;

    /** When the occasion was. */
    Instant moment;

    Instant decidedAt;

    @Enumerated(EnumType.STRING)
    @Nullable
    Silence silence;

    int stretches;

    @Nullable
    Instant waitsUntil;

    @Nullable
    Instant stoppedAt;

    /** What was asked on the way, in words. */
    @JdbcTypeCode(SqlTypes.JSON)
    List<Asked> questions = List.of();

    /**
     * Conditions that were asked together.
     *
     * @param step {@code only}, {@code while} or the step
     */
    record Asked(String step, boolean holds, List<String> answers) {}

    @SuppressWarnings("NullAway.Init")
    protected FollowupRun() {}

    FollowupRun(long personId, Decided first, String title, Instant now) {
        var went = first.went();
        this.personId = personId;
        this.subject = first.mark().subject();
        this.followup = went.followup();
        this.occasion = went.occasion();
        this.title = title;
        this.orderId = first.orderOrNone();
        this.thing = first.thingOrNone();
        this.about = first.about();
        this.moment = first.moment();
        this.decidedAt = now;
    }

    long id() {
        return Objects.requireNonNull(id);
    }

    RunKey key() {
        return new RunKey(subject, followup, occasion);
    }
}
