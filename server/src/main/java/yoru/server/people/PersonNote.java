package yoru.server.people;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Something that somebody at the desk wants remembered about a person. */
@Entity
@Table(name = "person_note")
class PersonNote {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    long personId;
    Instant at;
    String operator;
    String text;

    @SuppressWarnings("NullAway.Init")
    protected PersonNote() {}

    PersonNote(long personId, Instant at, String operator, String text) {
        this.personId = personId;
        this.at = at;
        this.operator = operator;
        this.text = text;
    }
}
