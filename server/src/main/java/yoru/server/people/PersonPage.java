package yoru.server.people;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.access.Entitlement;
import yoru.core.access.Explanation;
import yoru.core.access.State;
import yoru.core.access.WhyClosed;
import yoru.core.access.Window;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.systems.Matter;
import yoru.server.announcements.Announcements;
import yoru.server.deliveries.DeliveryList;
import yoru.server.deliveries.DeliveryState;
import yoru.server.ledger.FactWords;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.rulebooks.Rulebooks;

/** What there is to say about one person at one time, asked of the engine anew. */
@Service
class PersonPage {

    private static final String ACCOUNT = new Matter.Account().path();

    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final DeliveryList deliveries;
    private final Announcements announcements;
    private final PersonNotes notes;
    private final Clock clock;

    PersonPage(
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            DeliveryList deliveries,
            Announcements announcements,
            PersonNotes notes,
            Clock clock) {
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.deliveries = deliveries;
        this.announcements = announcements;
        this.notes = notes;
        this.clock = clock;
    }

    /**
     * Everything about one person as of a time.
     *
     * @param erasure how far they have been erased, none = they are as everybody
     * @param erasureWaitsFor the systems that have not yet answered that everything is closed
     * @param accounts as the systems that keep some have answered, whatever the as-of time; so are the letters
     * @param unsaid what has opened and is told them once the systems have confirmed it
     * @param joinedInto whose record counts instead of this one
     * @param joined whose facts count for this one too
     */
    record PersonShown(
            long id,
            String key,
            String name,
            Instant since,
            Instant asOf,
            int rulebook,
            int orders,
            Person.@Nullable Erasure erasure,
            List<String> erasureWaitsFor,
            @Nullable Known joinedInto,
            List<Known> joined,
            Holdings holdings,
            List<ShownNote> notes,
            List<DeliveryList.DeliveryStatus> accounts,
            List<DeliveryList.LetterTo> letters,
            List<Announcements.Pending> unsaid,
            List<ShownTarget> targets,
            List<Event> happened) {}

    /** Another person's record. */
    record Known(long id, String key, String name) {}

    record ShownNote(Instant at, String operator, String text) {}

    /**
     * Why something is closed, nearest reasons first.
     *
     * @param because empty where it is open
     */
    record WhyNot(String target, String title, List<String> because) {}

    /** A target with its windows, in time order, and what the systems answered about it (as of now, whatever the as-of time). */
    record ShownTarget(
            String target,
            String title,
            String sort,
            List<ShownWindow> windows,
            List<DeliveryList.DeliveryStatus> systems) {}

    /** @param why from what happened to what follows */
    record ShownWindow(
            Instant start,
            @Nullable Instant end,
            State state,
            boolean renews,
            String label,
            List<Bar> bars,
            List<Explanation.Step> why) {}

    /** One reason's own stretch of a window. */
    record Bar(Instant start, @Nullable Instant end, String label, boolean cutShort) {}

    record Event(Instant at, String title, String text) {}

    @Transactional(readOnly = true)
    public Optional<PersonShown> of(long id, @Nullable Instant at) {
        var asOf = Objects.requireNonNullElseGet(at, clock::instant);
        return register.person(id).map(person -> shown(person, asOf));
    }

    private PersonShown shown(Person person, Instant asOf) {
        var now = rulebooks.current();
        var facts = ledger.concerning(person.key()).asOf(asOf);
        var histories = Histories.of(facts);
        var history = histories.person(person.key());
        var access = now.engine().access(history, asOf);
        var explanation = new Explanation(now.rulebook(), now.number());
        Map<Target, List<Access>> byTarget = new LinkedHashMap<>();
        access.forEach(one -> byTarget.computeIfAbsent(one.target(), target -> new ArrayList<>())
                .add(one));
        var told = deliveries.of(person.id());
        var targets = byTarget.entrySet().stream()
                .map(entry -> target(entry.getKey(), entry.getValue(), now.rulebook(), explanation, told))
                .toList();
        return new PersonShown(
                person.id(),
                person.key(),
                person.name(),
                person.firstSeenAt(),
                asOf,
                now.number(),
                history.orders().size(),
                person.erasure().orElse(null),
                person.erasure().isEmpty()
                        ? List.of()
                        : told.stream()
                                .filter(standing -> standing.state() != DeliveryState.ANSWERED)
                                .map(DeliveryList.DeliveryStatus::system)
                                .distinct()
                                .toList(),
                known(histories.personOf(person.key()))
                        .filter(other -> !other.key.equals(person.key()))
                        .orElse(null),
                facts.facts().stream()
                        .map(Fact::subject)
                        .distinct()
                        .filter(key -> !key.equals(person.key()) && histories.isOnePerson(key, person.key()))
                        .flatMap(key -> known(key).stream())
                        .toList(),
                Holdings.of(now, facts, person.key(), access, asOf),
                notes.findByPersonIdAndAtLessThanEqualOrderByIdDesc(person.id(), asOf).stream()
                        .map(note -> new ShownNote(note.at, note.operator, note.text))
                        .toList(),
                told.stream()
                        .filter(standing -> standing.matter().equals(ACCOUNT))
                        .toList(),
                deliveries.letters(person.id()),
                announcements.pending(person.id()),
                targets,
                happened(facts, now.rulebook()));
    }

    private Optional<Known> known(String key) {
        return register.person(key).map(it -> new Known(it.id(), it.key(), it.name()));
    }

    /** Why a target is closed for somebody, also one they never had. */
    @Transactional(readOnly = true)
    public Optional<WhyNot> whyNot(long id, Target target, @Nullable Instant at) {
        var asOf = Objects.requireNonNullElseGet(at, clock::instant);
        var now = rulebooks.current();
        var explanation = new Explanation(now.rulebook(), now.number());
        return register.person(id).map(person -> {
            var facts = ledger.concerning(person.key()).asOf(asOf);
            var history = Histories.of(facts).person(person.key());
            return new WhyNot(
                    target.path(),
                    now.rulebook().title(target),
                    new WhyClosed(now.engine())
                            .of(history, target, asOf).stream()
                                    .map(explanation::obstacle)
                                    .toList());
        });
    }

    private static ShownTarget target(
            Target target,
            List<Access> windows,
            Rulebook rulebook,
            Explanation explanation,
            List<DeliveryList.DeliveryStatus> told) {
        return new ShownTarget(
                target.path(),
                rulebook.title(target),
                target.sort(),
                windows.stream().map(window -> window(window, explanation)).toList(),
                told.stream()
                        .filter(standing -> standing.matter().equals(target.path()))
                        .toList());
    }

    private static ShownWindow window(Access access, Explanation explanation) {
        var bars = access.entitlements().stream()
                .flatMap(it -> bars(it, access.window(), explanation))
                .toList();
        var label = String.join(
                " + ", access.entitlements().stream().map(explanation::label).toList());
        return new ShownWindow(
                access.window().start(),
                access.window().endOrNone(),
                access.state(),
                access.renews(),
                label,
                bars,
                explanation.of(access));
    }

    /** What the entitlement contributes to the window; more than one where a payment was missing in between. */
    private static Stream<Bar> bars(Entitlement entitlement, Window window, Explanation explanation) {
        boolean cutShort =
                entitlement.ending() != null && entitlement.ending().by().isPresent();
        return entitlement.stretch().open().within(window).asList().stream()
                .map(part -> new Bar(part.start(), part.endOrNone(), explanation.label(entitlement), cutShort));
    }

    private static List<Event> happened(Ledger facts, Rulebook rulebook) {
        return facts.facts().reversed().stream()
                .map((Fact fact) ->
                        new Event(fact.time(), FactWords.title(fact), FactWords.text(fact, rulebook::titleOfProduct)))
                .toList();
    }
}
