package yoru.server.segments;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.ByCodePoint;
import yoru.core.segments.Segment;
import yoru.core.segments.Selection;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;

/** Keeps segments, and finds who is in them. */
@Service
public class Segments {

    private final SavedSegments saved;
    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final JsonMapper json;
    private final Clock clock;

    Segments(
            SavedSegments saved,
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            JsonMapper json,
            Clock clock) {
        this.saved = saved;
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.json = json;
        this.clock = clock;
    }

    record ShownSegment(long id, String name, SegmentSheet segment, Instant changedAt, String changedBy) {}

    @Transactional(readOnly = true)
    public List<ShownSegment> all() {
        return saved.findAllByOrderByName().stream().map(this::shown).toList();
    }

    @Transactional(readOnly = true)
    public ShownSegment one(long id) {
        return shown(find(id));
    }

    private SavedSegment find(long id) {
        return saved.findById(id).orElseThrow(() -> ProblemException.notFound("No segment " + id + "."));
    }

    private ShownSegment shown(SavedSegment segment) {
        return new ShownSegment(
                segment.id(),
                segment.name,
                json.readValue(segment.document, SegmentSheet.class),
                segment.changedAt,
                segment.changedBy);
    }

    /** @throws ProblemException where another has the name already */
    @Transactional
    public ShownSegment save(String name, SegmentSheet sheet, String operator) {
        return put(new SavedSegment(), name, sheet, operator);
    }

    @Transactional
    public ShownSegment change(long id, String name, SegmentSheet sheet, String operator) {
        return put(find(id), name, sheet, operator);
    }

    private ShownSegment put(SavedSegment segment, String name, SegmentSheet sheet, String operator) {
        var _ = sheet.segment();
        var plain = name.strip();
        if (saved.findByName(plain).filter(other -> !other.equals(segment)).isPresent()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "The segment was not saved",
                    "There is a segment “%s” already.".formatted(plain));
        }
        segment.name = plain;
        segment.document = json.writeValueAsString(sheet);
        segment.changedAt = clock.instant();
        segment.changedBy = operator;
        return shown(saved.saveAndFlush(segment));
    }

    @Transactional
    public void delete(long id) {
        saved.delete(find(id));
    }

    /** The keys of all who are in a segment at a time, by code point. */
    @Transactional(readOnly = true)
    public List<String> people(Segment segment, Instant asOf) {
        var engine = rulebooks.current().engine();
        var selection = new Selection(engine, asOf);
        Map<String, String> names = segment.asksForNames() ? register.names() : Map.of();
        var found = new ArrayList<String>();
        ledger.walk(ledger.concernedBy(segment.concern(engine.index())), asOf, done -> {}, history -> {
            if (selection.has(segment, history, names.getOrDefault(history.person(), ""))) {
                found.add(history.person());
            }
        });
        found.sort(ByCodePoint.ORDER);
        return found;
    }
}
