package yoru.server.followups;

import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SecretCode;

/** Whoever wants no more letters that answer nothing they did gets none; letters about what they bought go on. */
@Service
public class LetterStops {

    private final LetterStopTable table;
    private final Register register;
    private final LedgerReader ledger;
    private final Journal journal;
    private final SchoolSettings settings;
    private final Clock clock;

    LetterStops(
            LetterStopTable table,
            Register register,
            LedgerReader ledger,
            Journal journal,
            SchoolSettings settings,
            Clock clock) {
        this.table = table;
        this.register = register;
        this.ledger = ledger;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
    }

    /** Where somebody stops such letters: the same address in all of them. */
    String address(long person) {
        return settings.publicAddress() + "/letters/"
                + table.of(person, SecretCode.make().text()).code;
    }

    /** Whether somebody stopped them, under any name under which they are known. */
    boolean areStopped(long person) {
        return table.existsByPersonIdInAndStoppedAtIsNotNull(register.person(person)
                .map(this::records)
                .orElse(Stream.of(person))
                .toList());
    }

    private Stream<Long> records(Person person) {
        return register.people(ledger.joinedWith(person.key())).values().stream()
                .map(Person::id);
    }

    /**
     * What somebody chose.
     *
     * @param stoppedBy none = by themselves
     */
    public record LetterChoice(
            @Nullable Instant stoppedAt, @Nullable String stoppedBy) {}

    @Transactional(readOnly = true)
    public LetterChoice of(long person) {
        return table.findById(person)
                .map(it -> new LetterChoice(it.stoppedAt, it.stoppedBy))
                .orElse(new LetterChoice(null, null));
    }

    /** As it stands behind a code; empty = there is no such code. */
    @Transactional(readOnly = true)
    Optional<LetterChoice> behind(String code) {
        return table.findByCode(code).map(it -> new LetterChoice(it.stoppedAt, it.stoppedBy));
    }

    /** By the person, who has the code. */
    @Transactional
    void choose(String code, boolean stopped) {
        table.findByCode(code).ifPresent(it -> choose(it, stopped, null));
    }

    /** For somebody who asked for it. */
    @Transactional
    public void choose(long person, boolean stopped, String operator) {
        if (register.person(person).isEmpty()) {
            throw ProblemException.notFound("Nobody has the number " + person + ".");
        }
        choose(table.of(person, SecretCode.make().text()), stopped, operator);
    }

    private void choose(LetterStop choice, boolean stopped, @Nullable String operator) {
        if (stopped == (choice.stoppedAt != null)) {
            return;
        }
        choice.stoppedAt = stopped ? clock.instant() : null;
        choice.stoppedBy = stopped ? operator : null;
        table.save(choice);
        journal.write(new Journal.Line(
                operator == null ? Kind.FACT : Kind.OPERATOR,
                stopped ? "Unasked letters stopped" : "Unasked letters wanted again",
                operator == null ? "by themselves, under the address in a letter" : "",
                operator,
                choice.personId,
                null));
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        table.forget(forgotten.people());
    }
}
