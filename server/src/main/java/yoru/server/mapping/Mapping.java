package yoru.server.mapping;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.impact.Change;
import yoru.core.impact.Change.Kind;
import yoru.core.impact.DifferenceInWords;
import yoru.core.impact.Impact;
import yoru.core.ledger.Histories;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookDifference;
import yoru.formats.RulebookDocument;
import yoru.server.journal.Journal;
import yoru.server.ledger.LedgerService;
import yoru.server.mapping.Rulebooks.Numbered;
import yoru.server.platform.ProblemException;

/** Drafts, their consequence, and publishing. */
@Service
public class Mapping {

    private final RulebookVersions versions;
    private final Rulebooks rulebooks;
    private final LedgerService ledger;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    Mapping(
            RulebookVersions versions,
            Rulebooks rulebooks,
            LedgerService ledger,
            Journal journal,
            ApplicationEventPublisher events,
            Clock clock) {
        this.versions = versions;
        this.rulebooks = rulebooks;
        this.ledger = ledger;
        this.journal = journal;
        this.events = events;
        this.clock = clock;
    }

    /** What a draft would change, computed by the engine over the facts there are. */
    public record Consequence(Rulebook before, Rulebook after, List<Change> changes) {

        /** How many people something of the kind happens to. */
        public int people(Set<Kind> kinds) {
            return (int) changes.stream()
                    .filter(change -> kinds.contains(change.kind()))
                    .map(Change::person)
                    .distinct()
                    .count();
        }
    }

    /** A publish, as history lists it. */
    public record Publish(
            int number,
            String note,
            String by,
            Instant at,
            List<String> difference,
            int gained,
            int lost,
            int otherEnd) {}

    /**
     * A mapping that is wanted.
     *
     * @param document a whole rulebook that the changes are made to; none = the one in force
     */
    public record Wanted(@Nullable String document, List<CellChange> changes) {

        public Wanted(List<CellChange> changes) {
            this(null, changes);
        }
    }

    /**
     * The way from the rulebook in force to another.
     *
     * @param document the other; none = the changes say everything
     * @param more what differs besides the cells, in words
     */
    record Way(@Nullable String document, List<CellChange> changes, List<String> more) {}

    @Transactional(readOnly = true)
    public Consequence consequence(Wanted wanted) {
        return consequence(rulebooks.overTodaysCatalogue(), wanted);
    }

    /** A rulebook as YAML; in a stable order, so that it can be kept in version control. */
    @Transactional(readOnly = true)
    public String yaml(@Nullable Integer version) {
        return RulebookDocument.yaml(
                version == null ? rulebooks.overTodaysCatalogue().rulebook() : published(version));
    }

    /** @throws yoru.formats.UnreadableException naming the place of every fault */
    @Transactional(readOnly = true)
    Way toReach(String document) {
        return way(RulebookDocument.read(document));
    }

    /**
     * The latest is taken back by returning to the one before, whole; an earlier one by turning round what it changed
     * cell by cell, for others came after it.
     */
    @Transactional(readOnly = true)
    Way toTakeBack(int number) {
        var before = number == 1 ? rulebooks.nothing().rulebook() : published(number - 1);
        if (number == rulebooks.current().number()) {
            return way(before);
        }
        return new Way(null, new RulebookDifference(published(number), before).cells(), List.of());
    }

    private Way way(Rulebook to) {
        var way = new RulebookDifference(rulebooks.overTodaysCatalogue().rulebook(), to);
        return new Way(RulebookDocument.yaml(to), way.cells(), way.more());
    }

    private Rulebook published(int number) {
        return RulebookDocument.read(versions.findById(number)
                .orElseThrow(() -> ProblemException.notFound("No rulebook " + number + "."))
                .document);
    }

    /**
     * Publishes a draft.
     *
     * @param base the version that the draft started from; where it is no longer the latest, nothing is published
     */
    @Transactional
    public Publish publish(int base, Wanted wanted, String note, String by) {
        versions.lockAll();
        Numbered now = rulebooks.overTodaysCatalogue();
        if (now.number() != base) {
            throw stale(now.number());
        }
        var consequence = consequence(now, wanted);
        var version = new RulebookVersion();
        version.number = base + 1;
        version.document = RulebookDocument.write(consequence.after).toString();
        version.note = note.strip();
        version.publishedBy = by;
        version.publishedAt = clock.instant();
        version.difference = String.join("\n", DifferenceInWords.of(consequence.before, consequence.after));
        version.gained = consequence.people(Set.of(Kind.GAINS));
        version.lost = consequence.people(Set.of(Kind.LOSES));
        version.otherEnd = consequence.people(Set.of(Kind.LONGER, Kind.SHORTER, Kind.OTHERWISE));
        versions.save(version);
        journal.write(new Journal.Line(
                yoru.server.journal.Kind.PUBLISHED,
                "Rulebook " + version.number + " published",
                version.note.isEmpty() ? version.difference.replace("\n", "; ") : version.note,
                by,
                null,
                null));
        events.publishEvent(new RulebookPublished(version.number));
        return shown(version);
    }

    @Transactional(readOnly = true)
    public List<Publish> history() {
        return versions.findAllByOrderByNumberDesc().stream()
                .map(Mapping::shown)
                .toList();
    }

    private Consequence consequence(Numbered now, Wanted wanted) {
        var from = wanted.document == null ? now.rulebook() : RulebookDocument.read(wanted.document);
        var after = checked(from.with(wanted.changes));
        var impact = new Impact(now.rulebook(), after);
        var part = ledger.concernedBy(impact.concern());
        var asOf = clock.instant();
        var changes = Histories.of(part.ledger().asOf(asOf)).all().stream()
                .filter(history -> part.people().contains(history.person()))
                .flatMap(history -> impact.over(history, asOf).stream())
                .toList();
        return new Consequence(now.rulebook(), after, changes);
    }

    /** A draft is read like a document from outside: unknown products and courses are refused with their place. */
    private static Rulebook checked(Rulebook draft) {
        return RulebookDocument.read(RulebookDocument.write(draft));
    }

    private static Publish shown(RulebookVersion version) {
        return new Publish(
                version.number,
                version.note,
                version.publishedBy,
                version.publishedAt,
                version.difference.lines().toList(),
                version.gained,
                version.lost,
                version.otherEnd);
    }

    private static ProblemException stale(int latest) {
        return new ProblemException(
                HttpStatus.CONFLICT,
                "Somebody else has published",
                "Rulebook %d is in force now. Nothing of yours was published; your draft is kept.".formatted(latest),
                Map.of("latest", latest));
    }
}
