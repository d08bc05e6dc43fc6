package yoru.server.exchange;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.Acting;
import yoru.server.platform.OperatorLeft;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SecretCode;
import yoru.server.platform.Sha256;

/** Secret addresses under which calendars can be read; each can be taken back. */
@Service
class Feeds {

    private final CalendarFeeds feeds;
    private final Journal journal;
    private final SchoolSettings settings;
    private final Clock clock;

    Feeds(CalendarFeeds feeds, Journal journal, SchoolSettings settings, Clock clock) {
        this.feeds = feeds;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
    }

    /** @param address only when it has just been made; it is not kept */
    record ShownFeed(
            long id,
            String name,
            Instant madeAt,
            String madeBy,
            @Nullable Instant readAt,
            @Nullable String address) {}

    @Transactional(readOnly = true)
    public List<ShownFeed> all() {
        return feeds.findAllByOrderById().stream()
                .map(feed -> shown(feed, null))
                .toList();
    }

    @Transactional
    public ShownFeed make(String name, String operator) {
        var code = SecretCode.make();
        var feed = feeds.saveAndFlush(new CalendarFeed(
                name.strip(),
                code.hash(),
                clock.instant(),
                operator,
                Acting.now().flatMap(Acting::accountId).orElse(null)));
        note("Calendar made", feed, operator);
        return shown(feed, settings.publicAddress() + "/feeds/" + code.text() + ".ics");
    }

    /** From now on its address leads nowhere. */
    @Transactional
    public void revoke(long id, String operator) {
        var feed = feeds.findById(id).orElseThrow(() -> ProblemException.notFound("No calendar " + id + "."));
        feeds.delete(feed);
        note("Calendar taken back", feed, operator);
    }

    /** Whether an address leads somewhere; it is noted that it was read. */
    @Transactional
    public boolean opens(String code) {
        var feed = feeds.findByHash(Sha256.of(code));
        feed.ifPresent(it -> it.readAt = clock.instant());
        return feed.isPresent();
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        feeds.findAllByOrderById()
                .forEach(feed -> feed.name = forgotten.forgetting().words(feed.name));
    }

    /** A calendar outlives nobody who made it. */
    @EventListener
    void on(OperatorLeft left) {
        feeds.findAllByOrderById().stream()
                .filter(feed -> feed.account == null ? feed.madeBy.equals(left.name()) : feed.account.equals(left.id()))
                .forEach(feed -> revoke(Objects.requireNonNull(feed.id), left.name()));
    }

    private void note(String what, CalendarFeed feed, String operator) {
        journal.write(new Journal.Line(Kind.OPERATOR, what, feed.name, operator, null, null));
    }

    private static ShownFeed shown(CalendarFeed feed, @Nullable String address) {
        return new ShownFeed(feed.id(), feed.name, feed.madeAt, feed.madeBy, feed.readAt, address);
    }
}
