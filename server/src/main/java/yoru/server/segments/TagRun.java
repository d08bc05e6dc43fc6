package yoru.server.segments;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A tag that is put on or taken off for many people, a few at a time. */
@Entity
@Table(name = "tag_run")
class TagRun {

    enum State {
        RUNNING,
        DONE,
        /** Somebody stopped it; for whom it was done it stays so. */
        STOPPED
    }

    @Id
    String id;

    /** Of which people, in words. */
    String title;

    String tag;
    boolean putOn;

    @Enumerated(EnumType.STRING)
    State state;

    int total;
    int done;
    Instant startedAt;
    String startedBy;

    @Nullable
    Instant endedAt;

    @SuppressWarnings("NullAway.Init")
    protected TagRun() {}

    @SuppressWarnings("NullAway.Init")
    TagRun(String id, String title, String tag, boolean putOn, int total) {
        this.id = id;
        this.title = title;
        this.tag = tag;
        this.putOn = putOn;
        this.total = total;
        this.state = total == 0 ? State.DONE : State.RUNNING;
    }
}
