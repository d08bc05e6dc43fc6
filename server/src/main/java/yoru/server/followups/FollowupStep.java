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
import java.util.Locale;
import java.util.Objects;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** One thing that a run does. */
@Entity
@Table(name = "followup_step")
class FollowupStep {

    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "followup_step_id")
    @SequenceGenerator(name = "followup_step_id", sequenceName = "followup_step_id_seq", allocationSize = 50)
    @Nullable
    Long id;

    long runId;

    /** Who was the person of the run when it was decided: with others joined it may be another record. */
    long personId;

    int stretch;

    /** Its place in its stretch. */
    int number;

    /** Its place in the follow-up: {@code 4.then.1}. */
    String step;

    /** As in the rows of the command: {@code give tag/guest}. */
    String does;

    @Enumerated(EnumType.STRING)
    StepState state;

    Instant dueAt;

    @Nullable
    Instant begunAt;

    @Nullable
    Instant endedAt;

    /** What it says, of a letter or a message to the team. */
    @JdbcTypeCode(SqlTypes.JSON)
    @Nullable
    Words said;

    /** Whether its letter answers nothing the person did. */
    boolean unasked;

    /** The discount code that goes with its letter. */
    @Nullable
    String code;

    /** Whether a system did not take it when it was told last. */
    boolean failing;

    /** What the systems answered, or what stands in its way. */
    String note;

    /**
     * What a step says.
     *
     * @param code what of a code is to be made; none = its letter has none
     */
    record Words(String subject, String text, @Nullable CodeTerms code) {}

    @SuppressWarnings("NullAway.Init")
    protected FollowupStep() {}

    FollowupStep(FollowupRun run, long personId, int stretch, int number, String step, String does, Instant dueAt) {
        this.runId = run.id();
        this.personId = personId;
        this.stretch = stretch;
        this.number = number;
        this.step = step;
        this.does = does;
        this.state = StepState.DUE;
        this.dueAt = dueAt;
        this.note = "";
    }

    long id() {
        return Objects.requireNonNull(id);
    }

    Does kind() {
        return Does.valueOf(does.substring(0, Math.max(0, does.indexOf(' '))).toUpperCase(Locale.ROOT));
    }

    /** What there is to do. */
    enum Does {
        GIVE,
        TAKE,
        SET,
        WRITE,
        TELL;

        /** Whether it opens or closes something. */
        boolean movesAccess() {
            return this == GIVE || this == TAKE;
        }

        /** Whether anybody reads it. */
        boolean speaks() {
            return this == WRITE || this == TELL;
        }
    }

    /** What it is about: a target, a field with its value, a subject. */
    String object() {
        return does.substring(does.indexOf(' ') + 1);
    }

    boolean isOpen() {
        return StepState.OPEN.contains(state);
    }

    /** Whether it cannot go on by itself: a system does not take it, or there is none that could. As {@link FollowupRuns#HELD_UP} says it. */
    boolean isHeldUp() {
        return isOpen() && (failing || (state == StepState.DUE && !note.isEmpty()));
    }

    void begin(StepState now, Instant at) {
        state = now;
        begunAt = at;
    }

    void end(StepState now, Instant at) {
        state = now;
        endedAt = at;
    }
}
