package yoru.server.platform;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** How many codes that do not exist came from one place of late. */
@Entity
@Table(name = "claim_failure")
class WrongCode {

    @Id
    String origin;

    int failures;
    Instant since;

    @SuppressWarnings("NullAway.Init")
    protected WrongCode() {}
}
