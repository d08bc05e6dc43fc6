package yoru.server.announcements;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import yoru.core.access.HowLong;
import yoru.core.letters.News;
import yoru.core.rulebook.Target;

/** Something that has opened for somebody and is told them once the systems have confirmed it. */
@Entity
@Table(name = "announcement")
class Announcement {

    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "announcement_id")
    @SequenceGenerator(name = "announcement_id", sequenceName = "announcement_id_seq", allocationSize = 50)
    @Nullable
    Long id;

    long personId;
    String target;

    /** What opened together is told in one letter. */
    String batch;

    Instant since;

    @Nullable
    Instant until;

    boolean renews;
    boolean free;

    @Nullable
    String orderId;

    /** The fact from which it followed. */
    @Nullable
    Long factSeq;

    @SuppressWarnings("NullAway.Init")
    protected Announcement() {}

    Announcement(long personId, String batch, News news, @Nullable Long fact) {
        this.personId = personId;
        this.batch = batch;
        this.target = news.target().path();
        this.since = news.since();
        this.until = news.howLong().endOrNone();
        this.renews = news.howLong().renews();
        this.free = news.free();
        this.orderId = news.orderOrNone();
        this.factSeq = fact;
    }

    Target target() {
        return Target.read(target);
    }

    News news() {
        return new News(target(), since, HowLong.until(until, renews), free, orderId, null);
    }
}
