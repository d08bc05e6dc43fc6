package yoru.server.followups;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** Under which rulebook it was decided last what follow-ups do for somebody. */
@Entity
@Table(name = "followup_person")
class DecidedUnder {

    @Id
    long personId;

    int rulebook;

    protected DecidedUnder() {}

    DecidedUnder(long personId, int rulebook) {
        this.personId = personId;
        this.rulebook = rulebook;
    }
}
