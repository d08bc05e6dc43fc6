package yoru.server.announcements;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.access.Access;
import yoru.core.access.Entitlement;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.formats.FactWriter;
import yoru.server.deliveries.Deliveries;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.Person;
import yoru.server.systems.Matter;

/** Has people and listeners told, once, in the transaction in which it became so. */
@Service
public class Announcements {

    /** A letter about something that opened longer ago says nothing that is of use: the past of a new school, for example. */
    private static final Duration NEWS = Duration.ofDays(2);

    private final Deliveries deliveries;
    private final Welcome welcome;
    private final JsonMapper json;
    private final Clock clock;

    Announcements(Deliveries deliveries, Welcome welcome, JsonMapper json, Clock clock) {
        this.deliveries = deliveries;
        this.welcome = welcome;
        this.json = json;
        this.clock = clock;
    }

    /**
     * Something that has opened.
     *
     * @param free whether it was given by an order by hand for which nothing is to be paid
     */
    public record Opened(
            Target target, Instant since, @Nullable Instant until, boolean free) {

        public static Opened of(Access access) {
            return new Opened(
                    access.target(),
                    access.window().start(),
                    access.window().endOrNone(),
                    access.entitlements().stream().allMatch(Opened::isFree));
        }

        private static boolean isFree(Entitlement entitlement) {
            return entitlement
                    .reason()
                    .bought()
                    .filter(bought -> bought.order().details().channel() == Channel.HAND
                            && bought.line().amount().signum() == 0)
                    .isPresent();
        }
    }

    /** A letter as it would be read. */
    public record Preview(String subject, String text) {}

    /** The letter that would go to somebody about these; nothing where there would be none. */
    @Transactional(readOnly = true)
    public Optional<Preview> letter(String key, String name, List<Opened> opened, Rulebook rulebook) {
        var news = worthALetter(opened);
        if (news.isEmpty() || !deliveries.canSendLetters()) {
            return Optional.empty();
        }
        var letter = welcome.letter(key, name, news, rulebook);
        return Optional.of(new Preview(letter.subject(), letter.text()));
    }

    /** What the letter about these would have as its subject, or why there would be none. */
    @Transactional(readOnly = true)
    public String letterFor(List<Opened> opened, Rulebook rulebook) {
        var news = worthALetter(opened);
        if (!deliveries.canSendLetters()) {
            return "nothing, for no system carries letters";
        }
        return news.isEmpty() ? "nothing, for nothing of it is worth a letter" : welcome.subject(news, rulebook);
    }

    private List<Opened> worthALetter(List<Opened> opened) {
        return opened.stream()
                .filter(it -> welcome.isWorthALetter(it.target()))
                .filter(it -> it.since().isAfter(clock.instant().minus(NEWS)))
                .sorted(Comparator.comparing(it -> !(it.target() instanceof Target.OfCourse)))
                .toList();
    }

    /** What has changed for one person at one moment. */
    @Transactional
    public void announce(
            Person person, List<Opened> opened, List<Target> ended, Rulebook rulebook, @Nullable Long cause) {
        var news = worthALetter(opened);
        if (!news.isEmpty()) {
            deliveries.send(
                    person.id(),
                    Ability.MESSAGES,
                    new Matter.Letter(id()),
                    () -> json.writeValueAsString(welcome.letter(person.key(), person.name(), news, rulebook)),
                    cause);
        }
        opened.forEach(it -> event(person, "yoru.access.opened", it.target(), it.until(), cause));
        ended.forEach(it -> event(person, "yoru.access.ended", it, null, cause));
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
            default -> {}
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
