package yoru.server.ledger;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Somebody whom facts are about. */
@Entity
@Table(name = "person")
public class Person {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    @Column(name = "person_key")
    String key;

    String name;
    Instant firstSeenAt;

    /** None = they are as everybody. */
    @Enumerated(EnumType.STRING)
    @Nullable
    Erasure erasure;

    /** How far somebody who is to be forgotten has been erased. */
    public enum Erasure {
        /** Everything of theirs is being closed in the systems. */
        CLOSING,
        /** Nothing says any more who they were. */
        DONE
    }

    @SuppressWarnings("NullAway.Init")
    protected Person() {}

    public long id() {
        return Objects.requireNonNull(id);
    }

    /** The subject of the facts: an e-mail address. */
    public String key() {
        return key;
    }

    /** As a shop told it, else the key. */
    public String name() {
        return name.isEmpty() ? key : name;
    }

    /** As a shop told it; empty = nobody did. */
    public Optional<String> givenName() {
        return Optional.of(name).filter(it -> !it.isEmpty());
    }

    public Instant firstSeenAt() {
        return firstSeenAt;
    }

    /** Empty = they are as everybody. */
    public Optional<Erasure> erasure() {
        return Optional.ofNullable(erasure);
    }
}
