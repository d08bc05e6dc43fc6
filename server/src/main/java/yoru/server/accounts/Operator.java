package yoru.server.accounts;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import java.util.concurrent.ThreadLocalRandom;
import org.jspecify.annotations.Nullable;

/** Somebody who works with Yoru. */
@Entity
@Table(name = "operator")
class Operator {

    static final int FAILURES_BEFORE_LOCK = 5;
    static final Duration LOCKED_FOR = Duration.ofMinutes(15);

    @Id
    UUID id;

    String email;
    String name;
    String passwordHash;

    /** Another one with each password. */
    int passwordStamp;

    @Enumerated(EnumType.STRING)
    Role role;

    /** Whether they read what follow-ups tell the team. */
    boolean told;

    int failures;

    @Nullable
    Instant lockedUntil;

    @SuppressWarnings("NullAway.Init")
    protected Operator() {}

    Operator(String email, String name, String passwordHash, Role role) {
        this.id = UUID.randomUUID();
        this.email = email;
        this.name = name;
        this.passwordHash = passwordHash;
        this.passwordStamp = stamp();
        this.role = role;
    }

    boolean isLocked(Instant now) {
        return lockedUntil != null && now.isBefore(lockedUntil);
    }

    void failed(Instant now) {
        failures++;
        if (failures >= FAILURES_BEFORE_LOCK) {
            lockedUntil = now.plus(LOCKED_FOR);
            failures = 0;
        }
    }

    /** Has another password from now on. */
    void change(String passwordHash) {
        this.passwordHash = passwordHash;
        this.passwordStamp = stamp();
    }

    private static int stamp() {
        return ThreadLocalRandom.current().nextInt();
    }

    SignedIn signedIn() {
        return new SignedIn(email, name, passwordStamp);
    }

    void succeeded() {
        failures = 0;
        lockedUntil = null;
    }
}
