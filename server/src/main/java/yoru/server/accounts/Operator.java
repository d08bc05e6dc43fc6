package yoru.server.accounts;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.UUID;
import java.util.concurrent.ThreadLocalRandom;
import org.hibernate.annotations.DynamicUpdate;
import org.hibernate.annotations.Formula;
import org.jspecify.annotations.Nullable;

/** Somebody who works with Yoru. */
@Entity
@DynamicUpdate // what somebody else changes at the same moment stays
@Table(name = "operator")
class Operator {

    @Id
    UUID id;

    String email;
    String name;

    /** None while they have not set a password of their own. */
    @Nullable
    String passwordHash;

    /** Another one with each password. */
    int passwordStamp;

    @Enumerated(EnumType.STRING)
    Role role;

    /** Whether they read what follow-ups tell the team. */
    boolean told;

    /** What their authenticator makes codes from, encrypted; it counts once {@link #factorSince} is set. */
    byte @Nullable [] factorSecret;

    @Nullable
    Instant factorSince;

    /** The step of the last code that was used. */
    long factorStep;

    /** Digests of the codes that were written down and not used, with spaces between. */
    @Nullable
    String spareCodes;

    /** How many passkeys they have. */
    @Formula("(select count(*) from passkey p where p.operator_id = id)")
    int passkeys;

    @SuppressWarnings("NullAway.Init")
    protected Operator() {}

    Operator(String email, String name, @Nullable String passwordHash, Role role) {
        this.id = UUID.randomUUID();
        this.email = email;
        this.name = name;
        this.passwordHash = passwordHash;
        this.passwordStamp = stamp();
        this.role = role;
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
        return new SignedIn(id, email, name, passwordStamp);
    }
}
