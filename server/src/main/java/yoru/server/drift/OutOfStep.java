package yoru.server.drift;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Target;
import yoru.core.systems.Difference;

/** A difference between what one system has for one person and what Yoru wants there. */
@Entity
@Table(name = "out_of_step")
class OutOfStep {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String connectionId;
    String personKey;
    String target;

    @Enumerated(EnumType.STRING)
    Difference.Kind kind;

    @Nullable
    Instant wantedUntil;

    @Nullable
    Instant foundUntil;

    Instant noticedAt;
    long checkId;

    @SuppressWarnings("NullAway.Init")
    protected OutOfStep() {}

    OutOfStep(String connectionId, String personKey, Difference difference, Instant noticedAt, long checkId) {
        this.connectionId = connectionId;
        this.personKey = personKey;
        this.target = difference.target().path();
        this.noticedAt = noticedAt;
        is(difference, checkId);
    }

    final void is(Difference difference, long check) {
        kind = difference.kind();
        wantedUntil = difference.wanted() == null ? null : difference.wanted().until();
        foundUntil = difference.found() == null ? null : difference.found().until();
        checkId = check;
    }

    long id() {
        return Objects.requireNonNull(id);
    }

    Target target() {
        return Target.read(target);
    }
}
