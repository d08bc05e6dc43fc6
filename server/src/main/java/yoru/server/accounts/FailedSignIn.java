package yoru.server.accounts;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** How often signing in failed of late, of what is counted together. */
@Entity
@Table(name = "failed_sign_in")
class FailedSignIn {

    @Id
    String about;

    int failures;
    Instant lastAt;

    @SuppressWarnings("NullAway.Init")
    protected FailedSignIn() {}
}
