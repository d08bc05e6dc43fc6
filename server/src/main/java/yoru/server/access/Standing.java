package yoru.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import yoru.core.access.HowLong;
import yoru.core.moves.Told;
import yoru.core.rulebook.Target;

/** That a target was open for a person when last looked at; what has changed since is told to the systems. */
@Entity
@Table(name = "standing")
class Standing {

    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "standing_id")
    @SequenceGenerator(name = "standing_id", sequenceName = "standing_id_seq", allocationSize = 50)
    @Nullable
    Long id;

    long personId;
    String target;

    @Nullable
    Instant until;

    boolean renews;

    /** The number of the rulebook by which it was computed. */
    int rulebook;

    @SuppressWarnings("NullAway.Init")
    protected Standing() {}

    Standing(long personId, Target target, HowLong howLong, int rulebook) {
        this.personId = personId;
        this.target = target.path();
        this.rulebook = rulebook;
        lasts(howLong);
    }

    void lasts(HowLong howLong) {
        until = howLong.endOrNone();
        renews = howLong.renews();
    }

    Target target() {
        return Target.read(target);
    }

    HowLong howLong() {
        return HowLong.until(until, renews);
    }

    Told told() {
        return new Told(target(), howLong());
    }
}
