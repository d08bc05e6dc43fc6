package yoru.server.findings;

import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
import java.time.Instant;
import yoru.core.findings.Finding;

/** That somebody knows of a finding, and wants it so. */
@Entity
@Table(name = "accepted_finding")
class AcceptedFinding {

    /** What was found, and where. */
    @Embeddable
    record Id(@Enumerated(EnumType.STRING) Finding.Kind kind, String subject) {}

    @EmbeddedId
    Id id;

    /** On what it rested. */
    String evidence;

    String reason;
    String acceptedBy;
    Instant acceptedAt;

    @SuppressWarnings("NullAway.Init")
    protected AcceptedFinding() {}

    AcceptedFinding(Id id, String evidence, String reason, String by, Instant at) {
        this.id = id;
        this.evidence = evidence;
        this.reason = reason;
        this.acceptedBy = by;
        this.acceptedAt = at;
    }
}
