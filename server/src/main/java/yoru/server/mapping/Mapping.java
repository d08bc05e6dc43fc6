package yoru.server.mapping;

import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import yoru.core.impact.Change.Kind;
import yoru.core.impact.DifferenceInWords;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookDifference;
import yoru.formats.RulebookDocument;
import yoru.formats.RulebookEdit;
import yoru.formats.ThingChange;
import yoru.server.platform.ProblemException;
import yoru.server.rehearsals.Rehearsals;
import yoru.server.rulebooks.Publish;
import yoru.server.rulebooks.Publishes;
import yoru.server.rulebooks.Reach;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.rulebooks.Rulebooks.Numbered;

/** Drafts, their consequence, and publishing. */
@Service
public class Mapping {

    private final Rulebooks rulebooks;
    private final Consequences consequences;
    private final Publishes publishes;
    private final Rehearsals rehearsals;
    private final Clock clock;

    Mapping(Rulebooks rulebooks, Consequences consequences, Publishes publishes, Rehearsals rehearsals, Clock clock) {
        this.rulebooks = rulebooks;
        this.consequences = consequences;
        this.publishes = publishes;
        this.rehearsals = rehearsals;
        this.clock = clock;
    }

    /**
     * The way from the rulebook in force to another.
     *
     * @param document the other, in its own order and with its own ids; none = the changes say everything
     * @param things what differs besides the cells
     */
    record Way(@Nullable String document, List<ThingChange> things, List<CellChange> cells) {}

    /** A rulebook as YAML; in a stable order, so that it can be kept in version control. */
    @Transactional(readOnly = true)
    public String yaml(@Nullable Integer version) {
        return RulebookDocument.yaml(
                version == null ? rulebooks.overTodaysCatalogue().rulebook() : rulebooks.published(version));
    }

    /** The rulebook's document over today's catalogues, without the links. */
    @Transactional(readOnly = true)
    JsonNode things() {
        var document = RulebookDocument.write(rulebooks.overTodaysCatalogue().rulebook());
        document.remove("links");
        return document;
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
        var before = rulebooks.published(number - 1);
        if (number == rulebooks.current().number()) {
            return way(before);
        }
        var made = rulebooks.published(number);
        return new Way(
                null,
                RulebookEdit.difference(rulebooks.overTodaysCatalogue(made), rulebooks.overTodaysCatalogue(before)),
                new RulebookDifference(made, before).cells());
    }

    private Way way(Rulebook wanted) {
        var now = rulebooks.overTodaysCatalogue().rulebook();
        var to = rulebooks.overTodaysCatalogue(wanted);
        return new Way(
                RulebookDocument.yaml(to), RulebookEdit.difference(now, to), new RulebookDifference(now, to).cells());
    }

    /** The same where nothing of before is served by anything new. */
    @Transactional
    public Publish publish(int base, Wanted wanted, String note, String by) {
        return publish(base, wanted, PublishedPast.NOTHING, note, by);
    }

    /** The same where all stories have to come out as they should. */
    @Transactional
    public Publish publish(int base, Wanted wanted, PublishedPast past, String note, String by) {
        return publish(base, wanted, past, "", note, by);
    }

    /**
     * Publishes a draft.
     *
     * @param base the version that the draft started from; where it is no longer the latest, nothing is published
     * @param past what of before follow-ups may serve
     * @param why it is published although stories do not come out as they should; empty = then it is not
     */
    @Transactional
    public Publish publish(int base, Wanted wanted, PublishedPast past, String why, String note, String by) {
        publishes.holdBackOthers();
        Numbered now = rulebooks.overTodaysCatalogue();
        if (now.number() != base) {
            throw stale(now.number());
        }
        var consequence = consequences.of(now, wanted);
        var people = consequence.people();
        var despite = notAsExpected(consequence.after(), why.strip());
        var publish = new Publish(
                base + 1,
                note.strip(),
                by,
                clock.instant(),
                DifferenceInWords.of(consequence.before(), consequence.after()),
                people.of(Kind.GAINS).people(),
                people.of(Kind.LOSES).people(),
                Stream.of(Kind.SHORTER, Kind.OTHERWISE, Kind.LONGER)
                        .mapToInt(kind -> people.of(kind).people())
                        .sum(),
                despite,
                despite.isEmpty() ? "" : why.strip());
        publishes.keep(
                publish,
                past.reach(),
                RulebookDocument.write(past.begin(consequence.before(), consequence.after(), publish.at())));
        return publish;
    }

    /** The stories that would no longer come out as they should; where there are any, nobody publishes without saying why. */
    private List<String> notAsExpected(Rulebook after, String why) {
        var failing = rehearsals.under(after).stream()
                .filter(outcome -> !outcome.holds())
                .map(Rehearsals.Outcome::title)
                .toList();
        if (!failing.isEmpty() && why.isEmpty()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "Not as rehearsed",
                    "These would not come out as they should: %s. Say why it is published all the same; nothing was."
                            .formatted(String.join(", ", failing)),
                    Map.of("rehearsals", failing));
        }
        return failing;
    }

    /** Switches a follow-up off by itself, whatever is drafted: what runs goes on, nothing more begins. */
    @Transactional
    public Publish switchOff(String followup, String by) {
        publishes.holdBackOthers();
        var now = rulebooks.current();
        var before = now.rulebook();
        var known = before.followups().stream()
                .filter(it -> it.id().equals(followup))
                .findFirst()
                .orElseThrow(() -> ProblemException.notFound("No follow-up " + followup + " is in force."));
        if (!known.on()) {
            throw new ProblemException(HttpStatus.CONFLICT, "It is off", known.title() + " is off already.");
        }
        var after = before.withFollowups(before.followups().stream()
                .map(it -> it.equals(known) ? it.switchedOff() : it)
                .toList());
        var publish =
                new Publish(now.number() + 1, "", by, clock.instant(), DifferenceInWords.of(before, after), 0, 0, 0);
        publishes.keep(publish, Reach.FROM_NOW_ON, RulebookDocument.write(after));
        return publish;
    }

    @Transactional(readOnly = true)
    public List<Publish> history() {
        return publishes.history();
    }

    private static ProblemException stale(int latest) {
        return new ProblemException(
                HttpStatus.CONFLICT,
                "Somebody else has published",
                "Rulebook %d is in force now. Nothing of yours was published; your draft is kept.".formatted(latest),
                Map.of("latest", latest));
    }
}
