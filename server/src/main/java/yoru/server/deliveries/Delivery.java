package yoru.server.deliveries;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;
import yoru.core.access.HowLong;
import yoru.core.systems.Matter;
import yoru.core.systems.Wish;
import yoru.server.systems.Trouble;

/**
 * What one system is to be told about one person. It holds the state wanted now, not the steps that led there: of open,
 * closed, open again while the system was away, only the last is sent. Letters and events are sent once.
 */
@Entity
@Table(name = "delivery")
class Delivery {

    /** Addresses of Yoru's own that let in whoever has them. */
    private static final Pattern CODES = Pattern.compile("/(claim|seats|mine|letters|confirm)/[\\w.-]{16,}");

    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "delivery_id")
    @SequenceGenerator(name = "delivery_id", sequenceName = "delivery_id_seq", allocationSize = 50)
    @Nullable
    Long id;

    String connectionId;
    long personId;

    /** What it is about, see {@link Matter#path()}. */
    String matter;

    boolean open;

    @Nullable
    Instant until;

    /** Whether {@link #until} is only when it would end without a further payment. */
    boolean renews;

    /** What a letter or an event says, as JSON. */
    @JdbcTypeCode(SqlTypes.JSON)
    @Nullable
    String content;

    /** Since when this state is wanted. */
    Instant wantedAt;

    /** Counts the states wanted; goes along as the revision, so that an older one arriving late changes nothing. */
    int revision;

    @Enumerated(EnumType.STRING)
    DeliveryState status;

    int attempts;

    @Nullable
    Instant failingSince;

    @Nullable
    Instant nextTryAt;

    @Nullable
    String lastAnswer;

    @Nullable
    Instant lastAnswerAt;

    /** What stood in the way at the last try. */
    @Enumerated(EnumType.STRING)
    @Nullable
    Trouble trouble;

    /** When the state became so there, where the system reported it and Yoru did not tell it; none = Yoru's own wish. */
    @Nullable
    Instant reportedAt;

    /** Whether a try without an answer may still take effect, whatever was answered since. */
    boolean doubtful;

    /** Whether somebody said to make the person known there, whatever the policy is. */
    boolean makeKnown;

    /** The fact from which the wanted state followed. */
    @Nullable
    Long factSeq;

    @SuppressWarnings("NullAway.Init")
    protected Delivery() {}

    /** @param before revisions that it may have had of which nothing is known here */
    Delivery(String connectionId, long personId, Matter matter, int before, Instant now) {
        this.connectionId = connectionId;
        this.personId = personId;
        this.matter = matter.path();
        this.status = DeliveryState.WAITING;
        this.revision = before;
        this.wantedAt = now;
    }

    long id() {
        return Objects.requireNonNull(id);
    }

    Matter matter() {
        return Matter.read(matter);
    }

    /** The same for every try of one revision. */
    String key() {
        return "yoru-" + id() + "-" + revision;
    }

    /** What the system should hold. */
    Wish wish() {
        return new Wish(connectionId, matter(), open, howLong(), content);
    }

    HowLong howLong() {
        return HowLong.until(until, renews);
    }

    void want(boolean isOpen, HowLong howLong, @Nullable String said, @Nullable Long fact, Instant now) {
        open = isOpen;
        until = howLong.endOrNone();
        renews = howLong.renews();
        content = said;
        factSeq = fact;
        wantedAt = now;
        reportedAt = null;
        revision++;
        startOver();
    }

    /** Has what was said say something else from now on; its kind and what it is about stay. */
    void retell(UnaryOperator<String> words) {
        content = content == null ? null : words.apply(content);
    }

    /** What was sent keeps no codes: whoever reads it here later must not be let in by them. */
    void forgetCodes() {
        if (!matter().isState()) {
            retell(said -> CODES.matcher(said).replaceAll("/$1/…"));
        }
    }

    /** The system says that it has been so there since a time. */
    void isReported(boolean isOpen, Instant since, String words, long fact, Instant now) {
        want(isOpen, HowLong.ALWAYS, null, fact, now);
        status = DeliveryState.ANSWERED;
        reportedAt = since;
        lastAnswer = words;
        lastAnswerAt = now;
    }

    /** Up to when what Yoru believes is known to be so. */
    Instant believedAt() {
        return reportedAt != null
                ? reportedAt
                : status == DeliveryState.ANSWERED && lastAnswerAt != null ? lastAnswerAt : wantedAt;
    }

    /** It may have been sent by a server that was lost: it goes once somebody says so. As after-restore.sql has it. */
    void keepBack(Instant now) {
        status = DeliveryState.GIVEN_UP;
        failingSince = now;
        lastAnswer = "kept back after a restore: it may have been sent since the backup";
        lastAnswerAt = now;
    }

    void startOver() {
        status = DeliveryState.WAITING;
        attempts = 0;
        failingSince = null;
        nextTryAt = null;
        trouble = null;
    }
}
