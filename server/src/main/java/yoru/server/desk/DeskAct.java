package yoru.server.desk;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** That an act was done, so that it is not done again. */
@Entity
@Table(name = "desk_act")
class DeskAct {

    @Id
    String key;

    Instant at;
    String operator;

    /** Of what was asked for, to tell the same act from another under its key. */
    String fingerprint;

    @Nullable
    String orderId;

    @Nullable
    Long personId;

    @SuppressWarnings("NullAway.Init")
    protected DeskAct() {}
}
