package yoru.server.accounts;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.UUID;

/** Lets somebody set a password of their own, once. */
@Entity
@Table(name = "password_code")
class PasswordCode {

    @Id
    String hash;

    UUID operatorId;
    Instant until;

    @SuppressWarnings("NullAway.Init")
    protected PasswordCode() {}

    PasswordCode(String hash, UUID operatorId, Instant until) {
        this.hash = hash;
        this.operatorId = operatorId;
        this.until = until;
    }
}
