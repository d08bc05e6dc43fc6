package yoru.server.announcements;

import java.time.Clock;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Happening;
import yoru.core.letters.Letter;
import yoru.core.letters.News;
import yoru.core.letters.OpeningLetter;
import yoru.core.moves.Moves;
import yoru.core.moves.Told;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.formats.FactWriter;
import yoru.server.deliveries.Deliveries;
import yoru.server.deliveries.Deliveries.Confirmation;
import yoru.server.deliveries.Settled;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.mapping.Rulebooks;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Matter;

/**
 * Has people and listeners told: events in the transaction in which it became so, letters once the systems have confirmed
 * what they say.
 */
@Service
public class Announcements {

    private final AnnouncementTable table;
    private final Deliveries deliveries;
    private final LedgerService ledger;
    private final Rulebooks rulebooks;
    private final Places places;
    private final GivableSeats seats;
    private final YoruSettings settings;
    private final JsonMapper json;
    private final Clock clock;

    Announcements(
            AnnouncementTable table,
            Deliveries deliveries,
            LedgerService ledger,
            Rulebooks rulebooks,
            Places places,
            GivableSeats seats,
            YoruSettings settings,
            JsonMapper json,
            Clock clock) {
        this.table = table;
        this.deliveries = deliveries;
        this.ledger = ledger;
        this.rulebooks = rulebooks;
        this.places = places;
        this.seats = seats;
        this.settings = settings;
        this.json = json;
        this.clock = clock;
    }

    /** The letter that would go to somebody about these, once it is confirmed; nothing where there would be none. */
    @Transactional(readOnly = true)
    public Optional<Letter> letter(String key, Optional<String> name, List<News> opened, Rulebook rulebook) {
        var news = worthALetter(opened);
        return news.isEmpty() || !deliveries.canSendLetters()
                ? Optional.empty()
                : Optional.of(letters(rulebook).of(key, name, news, seatsOf(key, news, false)));
    }

    /** What the letter about these would have as its subject, or why there would be none. */
    @Transactional(readOnly = true)
    public String letterFor(List<News> opened, Rulebook rulebook) {
        var news = worthALetter(opened);
        if (!deliveries.canSendLetters()) {
            return "nothing, for no system carries letters";
        }
        return news.isEmpty()
                ? "nothing, for nothing of it is worth a letter"
                : letters(rulebook).subject(news);
    }

    private List<News> worthALetter(List<News> opened) {
        return opened.stream().filter(it -> it.isWorthALetter(clock.instant())).toList();
    }

    private OpeningLetter letters(Rulebook rulebook) {
        return new OpeningLetter(settings.schoolName(), rulebook, places::of);
    }

    private Optional<OpeningLetter.Seats> seatsOf(String key, List<News> news, boolean makeAddress) {
        return news.stream()
                .flatMap(it -> Optional.ofNullable(it.orderOrNone()).stream())
                .distinct()
                .flatMap(order -> seats.of(order, key, makeAddress).stream())
                .findFirst();
    }

    /** What has changed for one person at one moment; the person is locked. */
    @Transactional
    public void announce(Person person, Moves moves, @Nullable Long cause) {
        if (!moves.ended().isEmpty()) {
            table.forget(
                    person.id(),
                    moves.ended().stream().map(it -> it.target().path()).toList());
        }
        var opened = moves.opened().stream().filter(Moves.Opened::isNews).toList();
        var news = worthALetter(opened.stream().map(it -> News.of(it.access())).toList());
        var batch = id();
        news.forEach(it -> table.save(new Announcement(person.id(), batch, it, cause)));
        opened.forEach(it -> event(
                person,
                "yoru.access.opened",
                it.target(),
                it.howLong().realEnd().orElse(null),
                cause));
        moves.ended().stream()
                .filter(Moves.Ended::isNews)
                .forEach(it -> event(person, "yoru.access.ended", it.target(), null, cause));
        if (!news.isEmpty() || !moves.changed().isEmpty()) {
            tellWhatIsConfirmed(person, moves.changed());
        }
    }

    /** A letter may now be true that was not before. */
    @EventListener
    void on(Settled settled) {
        tellWhatIsConfirmed(ledger.person(settled.person()).orElseThrow(), List.of());
    }

    /**
     * Of what opened together, waits until every system has answered, and tells what was confirmed. What a system does not
     * take is left out, and told by itself should it be confirmed after all.
     */
    private void tellWhatIsConfirmed(Person person, List<Told> changed) {
        var waiting = table.findByPersonIdOrderById(person.id());
        for (Told told : changed) {
            waiting.stream().filter(it -> it.target().equals(told.target())).forEach(it -> {
                it.until = told.howLong().endOrNone();
                it.renews = told.howLong().renews();
            });
        }
        waiting.stream().collect(Collectors.groupingBy(it -> it.batch)).forEach((batch, together) -> {
            Map<Confirmation, List<Announcement>> by = together.stream()
                    .collect(Collectors.groupingBy(it -> deliveries.confirmation(person.id(), it.target())));
            if (by.containsKey(Confirmation.WAITING)) {
                return;
            }
            by.getOrDefault(Confirmation.REFUSED, List.of()).forEach(it -> it.batch = id());
            var confirmed = by.getOrDefault(Confirmation.CONFIRMED, List.of());
            if (!confirmed.isEmpty()) {
                send(person, confirmed);
                table.deleteAll(confirmed);
            }
        });
    }

    private void send(Person person, List<Announcement> confirmed) {
        var news = confirmed.stream().map(Announcement::news).toList();
        deliveries.send(
                person.id(),
                Ability.MESSAGES,
                new Matter.Letter(id()),
                () -> json.writeValueAsString(
                        LetterJson.of(letters(rulebooks.current().rulebook())
                                .of(person.key(), person.givenName(), news, seatsOf(person.key(), news, true)))),
                confirmed.getFirst().factSeq);
    }

    /** What somebody is still to be told, and why not yet. */
    public record Pending(String target, String title, Confirmation confirmation) {}

    @Transactional(readOnly = true)
    public List<Pending> pending(long person) {
        return table.findByPersonIdOrderById(person).stream()
                .map(it -> new Pending(
                        it.target,
                        rulebooks.current().rulebook().title(it.target()),
                        deliveries.confirmation(person, it.target())))
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
                deliveries.send(
                        kept.subject(),
                        Ability.EVENTS,
                        new Matter.Event("fact-" + kept.seq()),
                        () -> FactWriter.write(kept.fact()),
                        kept.seq());
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
                    Happening.Unknown _ -> {}
        }
    }

    private void event(Person person, String type, Target target, @Nullable Instant until, @Nullable Long cause) {
        var id = id();
        Map<String, Object> data = new LinkedHashMap<>();
        data.put("target", target.path());
        data.put("name", person.name());
        if (until != null) {
            data.put("until", until.toString());
        }
        Map<String, Object> event = new LinkedHashMap<>();
        event.put("specversion", "1.0");
        event.put("id", id);
        event.put("source", "/yoru");
        event.put("type", type);
        event.put("subject", person.key());
        event.put("time", clock.instant().toString());
        event.put("datacontenttype", "application/json");
        event.put("data", data);
        deliveries.send(person.id(), Ability.EVENTS, new Matter.Event(id), () -> json.writeValueAsString(event), cause);
    }

    private static String id() {
        return UUID.randomUUID().toString();
    }
}
