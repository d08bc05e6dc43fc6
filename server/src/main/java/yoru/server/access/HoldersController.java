package yoru.server.access;

import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.http.HttpStatus;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.ledger.Histories;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Target;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;

/** Who has a thing. */
@RestController
class HoldersController {

    private static final int SHOWN = 60;

    private final OpeningTable openings;
    private final Register register;
    private final LedgerReader ledger;
    private final Rulebooks rulebooks;
    private final Clock clock;

    HoldersController(OpeningTable openings, Register register, LedgerReader ledger, Rulebooks rulebooks, Clock clock) {
        this.openings = openings;
        this.register = register;
        this.ledger = ledger;
        this.rulebooks = rulebooks;
        this.clock = clock;
    }

    /**
     * @param now people who have it
     * @param later people who do not, and will
     * @param before people who had it
     * @param latest those who have it, who got it last first; not all of many
     */
    record Holders(long now, long later, long before, List<Holder> latest) {}

    /**
     * @param until when it ends; none = never
     * @param renews whether that is only where a payment does not come
     * @param places what an allowance of this level lets them choose; none = nothing, or it is no level
     */
    record Holder(
            long person,
            String name,
            Instant since,
            @Nullable Instant until,
            boolean renews,
            @Nullable Used places) {}

    /** Places of an allowance. */
    record Used(int taken, int of) {}

    @GetMapping("/api/holders")
    @Transactional(readOnly = true)
    Holders holders(@RequestParam @Size(max = 420) String target) {
        var now = clock.instant();
        var wanted = target(target);
        var count = openings.countHolders(wanted.path(), now);
        var latest = openings.openAt(wanted.path(), now, Limit.of(SHOWN));
        Map<Long, Person> people =
                register.byId(latest.stream().map(it -> it.personId).toList());
        var places = wanted instanceof Target.OfLevel level ? places(level.level(), people, now) : Map.<Long, Used>of();
        return new Holders(
                count.getNow(),
                count.getLater(),
                count.getBefore(),
                latest.stream()
                        .map(it -> holder(it, Objects.requireNonNull(people.get(it.personId)), places.get(it.personId)))
                        .toList());
    }

    private static Target target(String path) {
        try {
            return Target.read(path);
        } catch (IllegalArgumentException _) {
            throw new ProblemException(
                    HttpStatus.BAD_REQUEST, "This is no thing that is opened", "There is no " + path + ".");
        }
    }

    private Map<Long, Used> places(String level, Map<Long, Person> people, Instant moment) {
        var now = rulebooks.current();
        if (now.rulebook().level(level).flatMap(Level::allowance).isEmpty()) {
            return Map.of();
        }
        var histories = Histories.of(
                ledger.concerning(people.values().stream().map(Person::key).toList()));
        Map<Long, Used> used = new HashMap<>();
        people.forEach((id, person) -> now.engine().choices(histories.person(person.key()), moment).places().stream()
                .filter(it -> it.level().id().equals(level))
                .forEach(it ->
                        used.put(id, new Used(it.taken().size(), it.allowance().courses()))));
        return used;
    }

    private static Holder holder(Opening opening, Person person, @Nullable Used places) {
        return new Holder(opening.personId, person.name(), opening.opensAt, opening.endsAt, opening.renews, places);
    }
}
