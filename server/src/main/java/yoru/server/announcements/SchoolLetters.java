package yoru.server.announcements;

import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.letters.LetterWording;
import yoru.server.journal.Journal;
import yoru.server.platform.ProblemException;

/** The letters that Yoru writes by itself, in the school's words where it has any. They are read at every letter. */
@Service
public class SchoolLetters {

    private static final Map<LetterWording.Kind, String> TITLES = Map.of(
            LetterWording.Kind.OPENED, "What has opened",
            LetterWording.Kind.GIFT, "A gift");

    private final KeptWordings kept;
    private final Journal journal;
    private final Clock clock;

    SchoolLetters(KeptWordings kept, Journal journal, Clock clock) {
        this.kept = kept;
        this.journal = journal;
        this.clock = clock;
    }

    /** The school's own words; empty = it has none. */
    @Transactional(readOnly = true)
    public Optional<LetterWording> own(LetterWording.Kind kind) {
        return kept.findById(kind).map(it -> new LetterWording(it.subject, it.text));
    }

    /** @throws ProblemException where it leaves something open that such a letter does not have, or does not say what it must */
    @Transactional
    public void word(LetterWording.Kind kind, LetterWording wording, String operator) {
        var unknown = wording.unknown(kind);
        if (!unknown.isEmpty()) {
            throw refused("There is no {{%s}} in this letter. It can have %s."
                    .formatted(unknown.getFirst(), inWords(kind.placeholders())));
        }
        if (!wording.isComplete(kind)) {
            throw refused(
                    "The letter must have {{%s}} in it: without it nobody could use it.".formatted(kind.needed()));
        }
        kept.save(new KeptWording(kind, wording, operator, clock.instant()));
        note("worded anew", kind, operator);
    }

    /** As it ships. */
    @Transactional
    public void asItShips(LetterWording.Kind kind, String operator) {
        if (kept.existsById(kind)) {
            kept.deleteById(kind);
            note("as it ships again", kind, operator);
        }
    }

    private void note(String what, LetterWording.Kind kind, String operator) {
        journal.write(new Journal.Line(
                yoru.server.journal.Kind.OPERATOR,
                "Letter " + what,
                TITLES.getOrDefault(kind, ""),
                operator,
                null,
                null));
    }

    private static ProblemException refused(String why) {
        return new ProblemException(HttpStatus.UNPROCESSABLE_CONTENT, "The letter was not changed", why);
    }

    private static String inWords(List<String> names) {
        return String.join(", ", names.stream().map(name -> "{{" + name + "}}").toList());
    }
}
