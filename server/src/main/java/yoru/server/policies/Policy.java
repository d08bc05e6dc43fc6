package yoru.server.policies;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Period;
import org.jspecify.annotations.Nullable;
import yoru.core.policies.Policies;

/** The one row in which the school's policies are kept. */
@Entity
@Table(name = "policy")
class Policy {

    static final int ONLY = 1;

    @Id
    int id;

    @Enumerated(EnumType.STRING)
    Policies.Guests guests;

    @Enumerated(EnumType.STRING)
    Policies.UnknownContacts unknownContacts;

    @Enumerated(EnumType.STRING)
    Policies.Joining joining;

    /** ISO 8601. */
    @Nullable
    String giftsKeptFor;

    /** ISO 8601. */
    String late;

    @Enumerated(EnumType.STRING)
    Policies.UnknownContacts outwards;

    boolean ownPage;
    boolean guestsProve;

    @SuppressWarnings("NullAway.Init")
    protected Policy() {}

    Policies inForce() {
        return new Policies(
                guests,
                unknownContacts,
                joining,
                giftsKeptFor == null ? null : Period.parse(giftsKeptFor),
                Period.parse(late),
                outwards,
                ownPage,
                guestsProve);
    }

    void become(Policies wanted) {
        guests = wanted.guests();
        unknownContacts = wanted.unknownContacts();
        joining = wanted.joining();
        giftsKeptFor =
                wanted.giftsKeptFor() == null ? null : wanted.giftsKeptFor().toString();
        late = wanted.late().toString();
        outwards = wanted.outwards();
        ownPage = wanted.ownPage();
        guestsProve = wanted.guestsProve();
    }
}
