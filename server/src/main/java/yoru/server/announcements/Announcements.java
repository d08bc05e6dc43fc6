package yoru.server.announcements;

import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Happening;
import yoru.core.letters.LetterWording;
import yoru.core.letters.News;
import yoru.core.letters.OpeningLetter;
import yoru.core.letters.SeatsToGive;
import yoru.core.moves.Moves;
import yoru.core.moves.Told;
import yoru.core.moves.Turn;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.formats.FactWriter;
import yoru.server.deliveries.Answered;
import yoru.server.deliveries.CloudEvents;
import yoru.server.deliveries.Confirmations;
import yoru.server.deliveries.Confirmations.Confirmation;
import yoru.server.deliveries.Confirmations.Confirmed;
import yoru.server.deliveries.Deliveries;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.LostTime;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.AtEnd;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/**
 * Has people and listeners told: events in the transaction in which it became so, letters once the systems have confirmed
 * what they say.
 */
@Service
public class Announcements {

    private final AnnouncementTable table;
    private final Deliveries deliveries;
    private final Confirmations confirmations;
    private final Landscapes landscapes;
    private final LedgerReader ledger;
    private final LostTime lost;
    private final Register register;
    private final Rulebooks rulebooks;
    private final GivableSeats seats;
    private final OwnPages ownPages;
    private final SchoolLetters letters;
    private final SchoolSettings settings;
    private final JsonMapper json;
    private final Clock clock;
    private final AtEnd<Deliveries.Message> passedOn;

    Announcements(
            AnnouncementTable table,
            Deliveries deliveries,
            Confirmations confirmations,
            Landscapes landscapes,
            LedgerReader ledger,
            LostTime lost,
            Register register,
            Rulebooks rulebooks,
            GivableSeats seats,
            OwnPages ownPages,
            SchoolLetters letters,
            SchoolSettings settings,
            JsonMapper json,
            Clock clock) {
        this.table = table;
        this.deliveries = deliveries;
        this.confirmations = confirmations;
        this.landscapes = landscapes;
        this.ledger = ledger;
        this.lost = lost;
        this.register = register;
        this.rulebooks = rulebooks;
        this.seats = seats;
        this.ownPages = ownPages;
        this.letters = letters;
        this.settings = settings;
        this.json = json;
        this.clock = clock;
        this.passedOn = new AtEnd<>(deliveries::send);
    }

    private Optional<OpeningLetter.Seats> seatsOf(String key, List<News> news) {
        var toGive = new SeatsToGive(
                rulebooks.current().engine(), order -> ledger.order(order, clock.instant()), seats::areKnown);
        return toGive.in(news, key).map(offer -> new OpeningLetter.Seats(offer.free(), seats.address(offer.order())));
    }

    /**
     * What has become of somebody.
     *
     * @param cause the fact that made it necessary, none = the hour or another rulebook
     */
    public record Turned(Person person, Turn turn, @Nullable Long cause) {}

    /** What has become of people at one moment; they are locked. */
    @Transactional
    public void announce(Collection<Turned> turned) {
        turned.forEach(it -> keepNews(it.person, it.turn, it.cause));
        deliveries.send(turned.stream().flatMap(this::events).toList());
        var concerned = turned.stream()
                .filter(it ->
                        !it.turn.news().isEmpty() || !it.turn.moves().changed().isEmpty())
                .toList();
        if (concerned.isEmpty()) {
            return;
        }
        var waiting = waiting(concerned.stream().map(it -> it.person.id()).toList());
        var confirmed = confirmed(waiting);
        concerned.forEach(it -> tellWhatIsConfirmed(
                it.person,
                waiting.getOrDefault(it.person.id(), List.of()),
                it.turn.moves().changed(),
                confirmed));
    }

    private void keepNews(Person person, Turn turn, @Nullable Long cause) {
        var moves = turn.moves();
        if (!moves.ended().isEmpty()) {
            table.forget(
                    person.id(),
                    moves.ended().stream().map(it -> it.target().path()).toList());
        }
        var batch = id();
        turn.news().forEach(it -> table.save(new Announcement(person.id(), batch, it, cause)));
    }

    private Stream<Deliveries.Message> events(Turned turned) {
        var moves = turned.turn.moves();
        return Stream.concat(
                moves.opened().stream()
                        .filter(Moves.Opened::isNews)
                        .map(it -> event(
                                turned,
                                "yoru.access.opened",
                                it.target(),
                                it.howLong().realEnd().orElse(null),
                                it.access().window().start())),
                moves.ended().stream()
                        .filter(Moves.Ended::isNews)
                        .map(it -> event(
                                turned,
                                "yoru.access.ended",
                                it.target(),
                                null,
                                it.told().endOrNone())));
    }

    /** A letter may now be true that was not before. */
    @EventListener
    void on(Answered answered) {
        var waiting = waiting(answered.people());
        if (waiting.isEmpty()) {
            return;
        }
        var confirmed = confirmed(waiting);
        register.byId(waiting.keySet())
                .forEach((id, person) ->
                        tellWhatIsConfirmed(person, Objects.requireNonNull(waiting.get(id)), List.of(), confirmed));
    }

    private Map<Long, List<Announcement>> waiting(Collection<Long> people) {
        return table.findByPersonIdInOrderById(people).stream().collect(Collectors.groupingBy(it -> it.personId));
    }

    private Confirmed confirmed(Map<Long, List<Announcement>> waiting) {
        Map<Long, List<Target>> things = new HashMap<>();
        waiting.forEach((person, all) ->
                things.put(person, all.stream().map(Announcement::target).toList()));
        return confirmations.of(things);
    }

    /**
     * Of what opened together, waits until every system has answered, and tells what was confirmed. What a system does not
     * take is left out, and told by itself should it be confirmed after all.
     */
    private void tellWhatIsConfirmed(
            Person person, List<Announcement> waiting, List<Told> changed, Confirmed confirmed) {
        for (Told told : changed) {
            waiting.stream().filter(it -> it.target().equals(told.target())).forEach(it -> {
                it.until = told.howLong().endOrNone();
                it.renews = told.howLong().renews();
            });
        }
        waiting.stream().collect(Collectors.groupingBy(it -> it.batch)).forEach((batch, together) -> {
            Map<Confirmation, List<Announcement>> by =
                    together.stream().collect(Collectors.groupingBy(it -> confirmed.of(person.id(), it.target())));
            if (by.containsKey(Confirmation.WAITING)) {
                return;
            }
            by.getOrDefault(Confirmation.REFUSED, List.of()).forEach(it -> it.batch = id());
            var toSay = by.getOrDefault(Confirmation.CONFIRMED, List.of());
            toSay.stream()
                    .collect(Collectors.partitioningBy(it -> lost.mayHaveBeenDone(person.key(), it.since)))
                    .forEach((isKeptBack, those) -> send(person, those, isKeptBack));
            table.deleteAll(toSay);
        });
    }

    private void send(Person person, List<Announcement> confirmed, boolean isKeptBack) {
        if (confirmed.isEmpty()) {
            return;
        }
        var news = confirmed.stream().map(Announcement::news).toList();
        deliveries.send(List.of(new Deliveries.Message(
                person.id(),
                Ability.MESSAGES,
                new Matter.Letter(id()),
                () -> json.writeValueAsString(LetterJson.of(new OpeningLetter(
                                settings.name(),
                                rulebooks.current().rulebook(),
                                landscapes.current(),
                                letters.own(LetterWording.Kind.OPENED).orElse(null),
                                ownPages.linkFor(person.id()).orElse(null))
                        .of(person.key(), person.givenName(), news, seatsOf(person.key(), news)))),
                confirmed.getFirst().factSeq,
                isKeptBack)));
    }

    /** What somebody is still to be told, and why not yet. */
    public record Pending(String target, String title, Confirmation confirmation) {}

    @Transactional(readOnly = true)
    public List<Pending> pending(long person) {
        var pending = table.findByPersonIdInOrderById(List.of(person));
        var confirmed = confirmed(Map.of(person, pending));
        return pending.stream()
                .map(it -> new Pending(
                        it.target,
                        rulebooks.current().rulebook().title(it.target()),
                        confirmed.of(person, it.target())))
                .toList();
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        table.forgetPeople(forgotten.people());
    }

    /** What happened to orders is passed on as it came. */
    @EventListener
    void on(FactKept kept) {
        switch (kept.fact().happening()) {
            case Happening.OrderPlaced _,
                    Happening.OrderPaid _,
                    Happening.OrderInvoiced _,
                    Happening.OrderFulfilled _,
                    Happening.OrderCancelled _,
                    Happening.OrderRefunded _ ->
                passedOn.with(List.of(new Deliveries.Message(
                        kept.subject(),
                        Ability.EVENTS,
                        new Matter.Event("fact-" + kept.seq()),
                        () -> FactWriter.write(kept.fact()),
                        kept.seq())));
            case Happening.InstalmentPaid _,
                    Happening.InstalmentFailed _,
                    Happening.GiftClaimed _,
                    Happening.OfSubscription _,
                    Happening.OfGrant _,
                    Happening.OfLevel _,
                    Happening.OfTag _,
                    Happening.OfList _,
                    Happening.OfCourse _,
                    Happening.OfPerson _,
                    Happening.AccountMade _,
                    Happening.OfFollowup _,
                    Happening.Unknown _ -> {}
        }
    }

    /** @param due when it became so by itself, if it did */
    private Deliveries.Message event(
            Turned turned, String type, Target target, @Nullable Instant until, @Nullable Instant due) {
        var id = id();
        var person = turned.person;
        Map<String, Object> data = new LinkedHashMap<>();
        data.put("target", target.path());
        data.put("name", person.name());
        if (until != null) {
            data.put("until", until.toString());
        }
        var event = CloudEvents.of(id, type, person.key(), clock.instant(), data);
        return new Deliveries.Message(
                person.id(),
                Ability.EVENTS,
                new Matter.Event(id),
                () -> json.writeValueAsString(event),
                turned.cause,
                due != null && lost.mayHaveBeenDone(person.key(), due));
    }

    private static String id() {
        return UUID.randomUUID().toString();
    }
}
