package yoru.server.journal;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.server.platform.Acting;
import yoru.server.platform.PersonForgotten;

/** Writes the journal and reads it. */
@Service
public class Journal {

    /** Lines of one sort that would flood the journal are gathered over this time. */
    private static final Duration GATHERED = Duration.ofHours(1);

    private static final Pattern TIMES = Pattern.compile(" \\((\\d+) times\\)$");

    private final JournalEntries entries;
    private final Clock clock;

    Journal(JournalEntries entries, Clock clock) {
        this.entries = entries;
        this.clock = clock;
    }

    /**
     * A line to write.
     *
     * @param actor the operator or system that did it; of an operator at work their account is noted too
     */
    public record Line(
            Kind kind,
            String title,
            String text,
            @Nullable String actor,
            @Nullable Long personId,
            @Nullable Long factSeq) {}

    /**
     * A line as it is shown, with what followed from it.
     *
     * @param account the address of the operator's account at that time
     */
    public record JournalLine(
            long id,
            Instant at,
            Kind kind,
            String title,
            String text,
            @Nullable String actor,
            @Nullable String account,
            @Nullable Long personId,
            List<JournalLine> followed) {}

    /** Which lines to show. */
    public record Filter(
            @Nullable Long before,
            Collection<Kind> kinds,
            @Nullable Instant until,
            @Nullable Long person,
            String words) {}

    @Transactional
    public void write(Line line) {
        var entry = new JournalEntry(
                clock.instant(), line.kind, line.title, line.text, line.actor, line.personId, line.factSeq);
        Acting.now().ifPresent(who -> {
            entry.accountId = who.accountId().orElse(null);
            entry.accountAddress = who.address();
        });
        entries.save(entry);
    }

    /** Writes many lines at once, in their order. */
    @Transactional
    public void writeAll(List<Line> lines) {
        if (lines.isEmpty()) {
            return;
        }
        var rows = JsonNodeFactory.instance.arrayNode();
        for (Line line : lines) {
            rows.addObject()
                    .put("kind", line.kind.name())
                    .put("title", line.title)
                    .put("said", line.text)
                    .put("actor", line.actor)
                    .put("person_id", line.personId)
                    .put("fact_seq", line.factSeq);
        }
        var who = Acting.now();
        entries.insertAll(
                clock.instant(),
                rows.toString(),
                who.flatMap(Acting::accountId).map(UUID::toString).orElse(null),
                who.map(Acting::address).orElse(null));
    }

    /** Writes a line, or counts it into the one already written for the same actor within the hour. */
    @Transactional
    public void gather(Kind kind, String title, String text, String actor) {
        var known = entries.latest(kind, actor, title, clock.instant().minus(GATHERED));
        if (known.isEmpty()) {
            write(new Line(kind, title, text, actor, null, null));
            return;
        }
        var entry = known.get();
        int times = timesOf(entry.title) + 1;
        entry.title = title + " (" + times + " times)";
        entry.text = text;
    }

    /**
     * What went wrong with a system.
     *
     * @param what in words, without its title
     * @param many how often
     */
    public record Trouble(String what, long many, Instant last) {

        Trouble and(Trouble other) {
            return new Trouble(what, many + other.many, last.isAfter(other.last) ? last : other.last);
        }
    }

    /** What went wrong with a system since then, by kind, the most frequent first. */
    @Transactional(readOnly = true)
    public List<Trouble> troubles(String system, String title, Instant since) {
        Map<String, Trouble> byKind = new HashMap<>();
        for (var tally : entries.troubles(system, since)) {
            var trouble = new Trouble(
                    kindOf(tally.getTitle(), title), tally.getMany() * timesOf(tally.getTitle()), tally.getLast());
            byKind.merge(trouble.what, trouble, Trouble::and);
        }
        return byKind.values().stream()
                .sorted(Comparator.comparingLong(Trouble::many).reversed().thenComparing(Trouble::what))
                .toList();
    }

    /** "Classroom did not answer in time; trying again" is of the kind "did not answer in time". */
    private static String kindOf(String line, String title) {
        var words = line.startsWith(title + ": ") ? line.substring(title.length() + 2) : line;
        words = words.startsWith(title + " ") ? words.substring(title.length() + 1) : words;
        return TIMES.matcher(words.replaceFirst("; trying again$", "")).replaceFirst("");
    }

    @Transactional(readOnly = true)
    public List<JournalLine> read(Filter filter, int limit) {
        var kinds = filter.kinds.isEmpty() ? EnumSet.allOf(Kind.class) : filter.kinds;
        var words = filter.words.isBlank() ? "" : "%" + filter.words.strip().toLowerCase(Locale.ROOT) + "%";
        var page = entries.page(
                Objects.requireNonNullElse(filter.before, Long.MAX_VALUE),
                kinds,
                !kinds.contains(Kind.FACT),
                Kind.FACT,
                Objects.requireNonNullElseGet(filter.until, clock::instant),
                filter.person,
                words,
                Limit.of(limit));
        var facts = page.stream()
                .filter(entry -> entry.kind == Kind.FACT)
                .map(entry -> entry.factSeq)
                .filter(Objects::nonNull)
                .toList();
        Map<Long, List<JournalLine>> followed = entries.findByFactSeqInAndKindNotOrderById(facts, Kind.FACT).stream()
                .collect(Collectors.groupingBy(
                        entry -> Objects.requireNonNull(entry.factSeq),
                        Collectors.mapping(entry -> shown(entry, List.of()), Collectors.toList())));
        return page.stream()
                .map(entry -> shown(
                        entry, entry.kind == Kind.FACT ? followed.getOrDefault(entry.factSeq, List.of()) : List.of()))
                .toList();
    }

    /** What happened and when stays, not the words. */
    @EventListener
    void on(PersonForgotten forgotten) {
        entries.findByPersonIdIn(forgotten.people()).forEach(entry -> entry.text = "");
        var forgetting = forgotten.forgetting();
        for (String word : forgetting.words()) {
            for (JournalEntry entry : entries.naming(word)) {
                entry.title = forgetting.words(entry.title);
                entry.text = forgetting.words(entry.text);
                entry.actor = entry.actor == null ? null : forgetting.text(entry.actor);
            }
        }
    }

    private static JournalLine shown(JournalEntry entry, List<JournalLine> followed) {
        return new JournalLine(
                Objects.requireNonNull(entry.id),
                entry.at,
                entry.kind,
                entry.title,
                entry.text,
                entry.actor,
                entry.accountAddress,
                entry.personId,
                followed);
    }

    private static int timesOf(String title) {
        var times = TIMES.matcher(title);
        return times.find() ? Integer.parseInt(times.group(1)) : 1;
    }
}
