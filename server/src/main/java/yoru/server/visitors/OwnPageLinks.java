package yoru.server.visitors;

import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.announcements.OwnPages;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SignedTexts;
import yoru.server.policies.SchoolPolicies;

/** The links to people's own pages: signed, good for a time, and for no longer than nobody has revoked them. */
@Service
public class OwnPageLinks implements OwnPages {

    static final Duration GOOD_FOR = Duration.ofDays(30);

    private static final String PURPOSE = "own page";

    private final OwnPageTable table;
    private final SignedTexts signed;
    private final SchoolPolicies policies;
    private final Register register;
    private final Journal journal;
    private final SchoolSettings settings;
    private final Clock clock;

    OwnPageLinks(
            OwnPageTable table,
            SignedTexts signed,
            SchoolPolicies policies,
            Register register,
            Journal journal,
            SchoolSettings settings,
            Clock clock) {
        this.table = table;
        this.signed = signed;
        this.policies = policies;
        this.register = register;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
    }

    @Override
    @Transactional(readOnly = true)
    public boolean areSent() {
        return policies.inForce().ownPage();
    }

    @Override
    @Transactional(readOnly = true)
    public Optional<String> linkFor(long person) {
        return areSent()
                ? Optional.of(settings.publicAddress() + "/mine/"
                        + signed.sign(PURPOSE, person + " " + clock.instant().toEpochMilli()))
                : Optional.empty();
    }

    /** Whose page a code leads to; nothing where it is none, is too old, was revoked, or the school has no such pages. */
    @Transactional(readOnly = true)
    Optional<Person> behind(String code) {
        return signed.read(PURPOSE, code).filter(text -> areSent()).flatMap(text -> {
            var parts = text.split(" ", 2);
            long person = Long.parseLong(parts[0]);
            var made = madeAt(parts[1]);
            boolean isGood = made.plus(GOOD_FOR).isAfter(clock.instant())
                    && table.findById(person)
                            .flatMap(row -> Optional.ofNullable(row.revokedAt))
                            .filter(revoked -> !made.isAfter(revoked))
                            .isEmpty();
            return isGood
                    ? register.person(person).filter(known -> known.erasure().isEmpty())
                    : Optional.empty();
        });
    }

    /** It was signed here, and so is a time. */
    private static Instant madeAt(String millis) {
        try {
            return Instant.ofEpochMilli(Long.parseLong(millis));
        } catch (NumberFormatException | DateTimeException e) {
            throw new IllegalStateException(e);
        }
    }

    /** From now on none of the links that somebody has leads anywhere; the next letter has a new one. */
    @Transactional
    public void revoke(long person, String operator) {
        var known = register.person(person)
                .orElseThrow(() -> ProblemException.notFound("Nobody has the number " + person + "."));
        var row = row(known.id());
        row.revokedAt = clock.instant();
        table.save(row);
        journal.write(new Journal.Line(
                Kind.OPERATOR, "Links to their own page revoked", known.key(), operator, person, null));
    }

    OwnPageRow row(long person) {
        return table.findById(person).orElseGet(() -> table.save(new OwnPageRow(person)));
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        table.deleteByPersonIdIn(forgotten.people());
    }
}
