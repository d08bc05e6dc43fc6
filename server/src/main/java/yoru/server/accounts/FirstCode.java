package yoru.server.accounts;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** Lets somebody make the owner's account. */
@Entity
@Table(name = "first_code")
class FirstCode {

    @Id
    String hash;

    Instant madeAt;

    @SuppressWarnings("NullAway.Init")
    protected FirstCode() {}

    FirstCode(String hash, Instant madeAt) {
        this.hash = hash;
        this.madeAt = madeAt;
    }
}
