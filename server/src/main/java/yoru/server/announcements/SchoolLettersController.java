package yoru.server.announcements;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.letters.Letter;
import yoru.core.letters.LetterWording;
import yoru.server.platform.SchoolSettings;

/** The words of the letters that Yoru writes by itself. */
@RestController
class SchoolLettersController {

    private final SchoolLetters letters;
    private final SchoolSettings settings;

    SchoolLettersController(SchoolLetters letters, SchoolSettings settings) {
        this.letters = letters;
        this.settings = settings;
    }

    /**
     * A letter that can be worded.
     *
     * @param own the school's words; none = as it ships
     * @param placeholders what the text may leave open
     * @param needed what it must
     */
    record WordedLetter(
            LetterWording.Kind kind, @Nullable LetterWording own, List<String> placeholders, String needed) {}

    record WordingWanted(
            @NotBlank @Size(max = 200) String subject,
            @NotBlank @Size(max = 20_000) String text) {

        LetterWording wording() {
            return new LetterWording(subject, text);
        }
    }

    @GetMapping("/api/letters")
    List<WordedLetter> all() {
        return Arrays.stream(LetterWording.Kind.values())
                .map(kind -> new WordedLetter(kind, letters.own(kind).orElse(null), kind.placeholders(), kind.needed()))
                .toList();
    }

    @PutMapping("/api/letters/{kind}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void word(
            @PathVariable LetterWording.Kind kind,
            @Valid @RequestBody WordingWanted wanted,
            @AuthenticationPrincipal Principal operator) {
        letters.word(kind, wanted.wording(), operator.getName());
    }

    @DeleteMapping("/api/letters/{kind}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void asItShips(@PathVariable LetterWording.Kind kind, @AuthenticationPrincipal Principal operator) {
        letters.asItShips(kind, operator.getName());
    }

    /** How it would look, with something invented where it leaves something open. */
    @PostMapping("/api/letters/{kind}/look")
    LetterJson look(@PathVariable LetterWording.Kind kind, @Valid @RequestBody WordingWanted wanted) {
        var filled = wanted.wording().fill(sample(kind));
        return LetterJson.of(new Letter(filled.subject(), List.of(new Letter.Prose(filled.text()))));
    }

    private Map<String, String> sample(LetterWording.Kind kind) {
        return switch (kind) {
            case OPENED ->
                Map.of(
                        "person.name",
                        "Ada Kovach",
                        "person.address",
                        "ada@post.example",
                        "titles",
                        "First Hive and Honey",
                        "opened",
                        "- First Hive, until 1 March 2027. In Classroom: <https://classroom.example/first-hive>\n"
                                + "- Honey. In Classroom: <https://classroom.example/honey>",
                        "places",
                        "One more place is yours to give. Send it to whom it is for, here: " + settings.publicAddress()
                                + "/seats/example",
                        "page",
                        settings.publicAddress() + "/mine/example",
                        "school",
                        settings.name());
            case GIFT ->
                Map.of(
                        "from",
                        "Ada Kovach",
                        "what",
                        "First Hive",
                        "link",
                        settings.publicAddress() + "/claim/example",
                        "until",
                        "1 March 2027",
                        "school",
                        settings.name());
        };
    }
}
