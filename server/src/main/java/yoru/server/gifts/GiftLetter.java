package yoru.server.gifts;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;
import yoru.core.access.Words;
import yoru.server.platform.YoruSettings;

/** Writes the letter that tells somebody of a gift. It never says what it cost. */
@Component
class GiftLetter {

    private final YoruSettings settings;

    GiftLetter(YoruSettings settings) {
        this.settings = settings;
    }

    /** A letter, as text and as HTML. */
    record Letter(String subject, String text, String html) {}

    /** @param until when it can no longer be used; none = never */
    Letter of(Gifts.Offered gift, String link, Optional<Instant> until) {
        var last = until.map(end -> "It can be taken up until "
                        + new Words(settings.zone()).day(end.minus(Duration.ofSeconds(1))) + ".")
                .orElse("");
        var text = """
                Hello,

                %s has given you %s.

                Take it up here, with whichever e-mail address you want to use it:
                %s
                %s

                %s
                """.formatted(gift.from(), gift.what(), link, last, settings.schoolName());
        var html = """
                <p>Hello,</p>
                <p>%s has given you %s.</p>
                <p><a href="%s">Take it up here</a>, with whichever e-mail address you want to use it. %s</p>
                <p>%s</p>
                """.formatted(
                        HtmlUtils.htmlEscape(gift.from()),
                        HtmlUtils.htmlEscape(gift.what()),
                        HtmlUtils.htmlEscape(link),
                        last,
                        HtmlUtils.htmlEscape(settings.schoolName()));
        return new Letter("A gift for you: " + gift.what(), text, html);
    }
}
