package yoru.server.access;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.followup.Followups;
import yoru.core.followup.RunKey;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Followup;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.Origin;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;

/** Takes over what a school did by hand before it had a follow-up: whoever has its mark counts as served. */
@Service
class ServedByHand {

    private final OpeningTable openings;
    private final Rulebooks rulebooks;
    private final Register register;
    private final FactKeeper keeper;
    private final Journal journal;
    private final Clock clock;

    ServedByHand(
            OpeningTable openings,
            Rulebooks rulebooks,
            Register register,
            FactKeeper keeper,
            Journal journal,
            Clock clock) {
        this.openings = openings;
        this.rulebooks = rulebooks;
        this.register = register;
        this.keeper = keeper;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * Has everybody who has something now count as served, for good.
     *
     * @param target the path of what they have
     * @return how many that are
     */
    @Transactional
    public int take(String followup, String target, String operator) {
        var known = rulebooks.current().rulebook().followups().stream()
                .filter(it -> it.id().equals(followup))
                .findFirst()
                .orElseThrow(() -> ProblemException.notFound("No follow-up " + followup + " is in force."));
        if (known.once() != Followup.Once.PERSON) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "It serves nobody once and for all",
                    "Only a follow-up that serves a person the first time only can count somebody as served.");
        }
        var now = clock.instant();
        var ids = openings.having(target, now);
        register.lock(ids);
        var people = register.byId(ids).values().stream()
                .filter(person -> person.erasure().isEmpty())
                .map(Person::key)
                .sorted()
                .toList();
        keeper.keepComputed(
                new Origin.OfOperator(operator),
                people.stream()
                        .map(person -> served(RunKey.servedByHand(person, followup), now))
                        .toList());
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Counted as served",
                "%s: %d who have %s".formatted(known.title(), people.size(), target),
                operator,
                null,
                null));
        return people.size();
    }

    private static Fact served(RunKey run, Instant now) {
        return new Fact(
                new FactId(Followups.SOURCE, run.stretch(1)),
                run.person(),
                now,
                new Happening.FollowupWent(run.followup(), run.occasion(), 1, List.of(), null, null, null, false));
    }
}
