package yoru.server.mapping;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.access.Access;
import yoru.core.access.Explanation;
import yoru.core.impact.Change;
import yoru.core.impact.Change.Kind;
import yoru.core.impact.Headcount.Figure;
import yoru.core.impact.NoGain;
import yoru.core.proposals.CourseTags;
import yoru.core.samples.SampleStory;
import yoru.formats.ChangeRows;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/** What a draft would do, before it is published. */
@RestController
class DraftController {

    private static final Logger LOG = LoggerFactory.getLogger(DraftController.class);

    private final Mapping mapping;
    private final Consequences consequences;
    private final Rulebooks rulebooks;
    private final Register register;
    private final Landscapes landscapes;
    private final JsonMapper json;
    private final Clock clock;

    DraftController(
            Mapping mapping,
            Consequences consequences,
            Rulebooks rulebooks,
            Register register,
            Landscapes landscapes,
            JsonMapper json,
            Clock clock) {
        this.mapping = mapping;
        this.consequences = consequences;
        this.rulebooks = rulebooks;
        this.register = register;
        this.landscapes = landscapes;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A draft that leads to a whole rulebook.
     *
     * @param document the rulebook; none = the changes say everything
     * @param cells what differs from the one in force
     * @param things what differs besides
     */
    record WholeDraft(@Nullable String document, List<DraftCell> cells, List<Draft.DraftThing> things) {}

    /**
     * What would change, for how many people and for whom. Each person counts once, by the worst that happens to them.
     *
     * @param letters how many are written to at once that something has opened; none = no system carries letters
     * @param noGain how many bought what is opened more and gain nothing by it, by why
     * @param total changes, of which {@code people} shows the first
     */
    record DraftConsequence(
            Figure gain,
            Figure lose,
            Figure shorter,
            Figure longer,
            Figure otherwise,
            @Nullable Integer letters,
            List<WithoutGain> noGain,
            int total,
            List<PersonChange> people) {}

    record WithoutGain(NoGain.Why why, int people) {}

    /**
     * What would change for somebody.
     *
     * @param now whether it opens or closes at once
     * @param back of a loss that lasts only for a time, when it is open again
     * @param before when it is open by the rulebook in force; none = not any more
     * @param reasonBefore and why
     */
    record PersonChange(
            @Nullable Long person,
            String name,
            String address,
            String target,
            Kind kind,
            boolean now,
            @Nullable Instant back,
            @Nullable String before,
            @Nullable String reasonBefore,
            @Nullable String after,
            @Nullable String reasonAfter) {}

    /**
     * A line of the answer while it is being computed.
     *
     * @param done people looked at so far
     * @param of people to look at
     * @param consequence only in the last line
     */
    record Line(int done, int of, @Nullable DraftConsequence consequence) {}

    @PostMapping(path = "/api/mapping/consequence", produces = MediaType.APPLICATION_JSON_VALUE)
    DraftConsequence consequence(@Valid @RequestBody Draft draft) {
        return shown(consequences.of(draft.wanted()));
    }

    /**
     * The same, a line for each thousand people, so that one sees how far it is. Hanging up ends the work. Lines are
     * {@code {"done": 1000, "of": 20000}}, the last one has the consequence.
     */
    @PostMapping(path = "/api/mapping/consequence", produces = MediaType.APPLICATION_NDJSON_VALUE)
    void watched(@Valid @RequestBody Draft draft, HttpServletResponse response) throws IOException {
        response.setContentType(MediaType.APPLICATION_NDJSON_VALUE);
        var out = response.getOutputStream();
        try {
            var consequence = consequences.of(
                    rulebooks.overTodaysCatalogue(),
                    draft.wanted(),
                    (done, of) -> write(out, new Line(done, of, null)));
            write(out, new Line(0, 0, shown(consequence)));
        } catch (HungUpException e) {
            LOG.debug("A consequence was given up: {}", e.getMessage());
        }
    }

    /** Whoever asked no longer listens. */
    private static final class HungUpException extends RuntimeException {

        private static final long serialVersionUID = 1;

        HungUpException(IOException cause) {
            super(cause);
        }
    }

    /** Everybody whom a draft would touch, with windows before and after, as CSV (docs/formats/results.md). */
    @PostMapping(path = "/api/mapping/consequence/list", produces = "text/csv")
    String list(@Valid @RequestBody Draft draft) {
        var rows = new StringBuilder(ChangeRows.HEADER);
        consequences.forEach(draft.wanted(), change -> rows.append(ChangeRows.row(change)));
        return rows.toString();
    }

    /** Reads a rulebook (YAML or JSON) as a draft; publishes nothing. */
    @PostMapping(path = "/api/mapping/rulebook", consumes = "application/yaml")
    WholeDraft read(@RequestBody @Size(max = Draft.LARGEST_DOCUMENT) String document) {
        return draft(mapping.toReach(document));
    }

    /** A draft that takes a publish back. */
    @GetMapping("/api/mapping/history/{number}/back")
    WholeDraft takeBack(@PathVariable int number) {
        return draft(mapping.toTakeBack(number));
    }

    record SampleWanted(
            @NotNull @Valid Draft draft,
            @NotBlank @Size(max = 220) String source,
            @NotBlank @Size(max = 220) String target) {}

    /**
     * What somebody invented would have.
     *
     * @param open when, in words; none = not at all
     */
    record Scene(String what, List<String> open) {}

    /** What a cell of a draft would do for somebody invented who comes today. */
    @PostMapping("/api/mapping/sample")
    List<Scene> sample(@Valid @RequestBody SampleWanted wanted) {
        var rulebook = consequences.rulebook(rulebooks.overTodaysCatalogue(), wanted.draft.wanted());
        var explanation = new Explanation(rulebook, 0);
        var cell = new DraftCell(wanted.source, wanted.target, null).change();
        return SampleStory.of(rulebook, cell.source(), cell.destination(), clock.instant()).stream()
                .map(scene -> new Scene(
                        scene.what(),
                        scene.windows().stream().map(explanation::window).toList()))
                .toList();
    }

    /** @param course for which; none = for all */
    record TagsWanted(
            @NotNull @Valid Draft draft,
            @Nullable @Size(max = 200) String course) {}

    /** The tags of one course or of all by the school's names, with their links, to be put into the draft. */
    @PostMapping("/api/mapping/course-tags")
    WholeDraft courseTags(@Valid @RequestBody TagsWanted wanted) {
        var rulebook = consequences.rulebook(rulebooks.overTodaysCatalogue(), wanted.draft.wanted());
        var courses = rulebook.courses().stream()
                .filter(course -> wanted.course == null || course.id().equals(wanted.course))
                .toList();
        var made = new CourseTags(rulebook).of(courses);
        return new WholeDraft(
                null,
                made.cells().stream().map(DraftCell::of).toList(),
                made.tags().stream()
                        .map(tag ->
                                new Draft.DraftThing("tag/" + tag.id(), json.valueToTree(Map.of("title", tag.title()))))
                        .toList());
    }

    private static WholeDraft draft(Mapping.Way way) {
        return new WholeDraft(
                way.document(), way.cells().stream().map(DraftCell::of).toList(), Draft.shown(way.things()));
    }

    private void write(OutputStream out, Line line) {
        try {
            out.write((json.writeValueAsString(line) + "\n").getBytes(StandardCharsets.UTF_8));
            out.flush();
        } catch (IOException e) {
            throw new HungUpException(e);
        }
    }

    private DraftConsequence shown(Consequence consequence) {
        var first = consequence.first();
        var known = register.people(first.stream().map(Change::person).collect(Collectors.toSet()));
        var people = consequence.people();
        var before = new Explanation(consequence.before(), 0);
        var after = new Explanation(consequence.after(), 0);
        return new DraftConsequence(
                people.of(Kind.GAINS),
                people.of(Kind.LOSES),
                people.of(Kind.SHORTER),
                people.of(Kind.LONGER),
                people.of(Kind.OTHERWISE),
                landscapes.current().carriesLetters() ? people.letters() : null,
                people.noGain().entrySet().stream()
                        .map(it -> new WithoutGain(it.getKey(), it.getValue()))
                        .toList(),
                consequence.total(),
                first.stream()
                        .map(change -> shown(
                                change,
                                known.get(change.person()),
                                consequence.after().title(change.target()),
                                before,
                                after))
                        .toList());
    }

    private static PersonChange shown(
            Change change, @Nullable Person known, String target, Explanation before, Explanation after) {
        return new PersonChange(
                known == null ? null : known.id(),
                known == null ? change.person() : known.name(),
                change.person(),
                target,
                change.kind(),
                change.now(),
                change.backOn().orElse(null),
                windows(change.before(), before),
                reasons(change.before(), before),
                windows(change.after(), after),
                reasons(change.after(), after));
    }

    private static @Nullable String windows(List<Access> access, Explanation explanation) {
        return access.isEmpty()
                ? null
                : access.stream().map(one -> explanation.window(one.window())).collect(Collectors.joining("; "));
    }

    private static @Nullable String reasons(List<Access> access, Explanation explanation) {
        return access.isEmpty()
                ? null
                : access.stream()
                        .flatMap(one -> one.entitlements().stream())
                        .map(explanation::label)
                        .distinct()
                        .collect(Collectors.joining(" + "));
    }
}
