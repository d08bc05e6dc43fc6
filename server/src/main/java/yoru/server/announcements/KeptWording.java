package yoru.server.announcements;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import yoru.core.letters.LetterWording;

/** A school's own words for a letter. */
@Entity
@Table(name = "letter_wording")
class KeptWording {

    @Id
    @Enumerated(EnumType.STRING)
    LetterWording.Kind kind;

    String subject;
    String text;
    String changedBy;
    Instant changedAt;

    @SuppressWarnings("NullAway.Init")
    protected KeptWording() {}

    KeptWording(LetterWording.Kind kind, LetterWording wording, String changedBy, Instant changedAt) {
        this.kind = kind;
        this.subject = wording.subject();
        this.text = wording.text();
        this.changedBy = changedBy;
        this.changedAt = changedAt;
    }
}
