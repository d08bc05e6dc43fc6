package yoru.server.gifts;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import yoru.core.access.Words;
import yoru.core.letters.LetterWording;
import yoru.server.announcements.Markdown;
import yoru.server.announcements.SchoolLetters;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.Templates;

/** Writes the letter that tells somebody of a gift. It never says what it cost. */
@Component
class GiftLetter {

    private final SchoolLetters letters;
    private final Templates templates;
    private final SchoolSettings settings;

    GiftLetter(SchoolLetters letters, Templates templates, SchoolSettings settings) {
        this.letters = letters;
        this.templates = templates;
        this.settings = settings;
    }

    /** A letter, as text and as HTML. */
    record Written(String subject, String text, String html) {}

    /** @param until when it can no longer be used; none = never */
    Written of(Gifts.Offered gift, String link, Optional<Instant> until) {
        Map<String, String> values = Map.of(
                "from",
                gift.from(),
                "what",
                gift.what(),
                "link",
                link,
                "until",
                until.map(end -> new Words(settings.zone()).day(end.minus(Duration.ofSeconds(1))))
                        .orElse(""),
                "school",
                settings.name());
        var own = letters.own(LetterWording.Kind.GIFT);
        if (own.isPresent()) {
            var filled = own.get().fill(values);
            return new Written(filled.subject(), filled.text(), Markdown.html(filled.text()));
        }
        return new Written(
                "A gift for you: " + gift.what(),
                templates.fill("gift-letter.txt", values),
                templates.fill("gift-letter.html", values));
    }
}
