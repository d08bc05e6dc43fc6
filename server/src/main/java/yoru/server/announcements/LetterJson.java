package yoru.server.announcements;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.web.util.HtmlUtils;
import yoru.core.letters.Letter;

/**
 * A letter as the systems that carry letters take it: as text and as HTML.
 *
 * @param unsubscribe where its reader stops such letters; none = it answers something they did
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record LetterJson(
        String subject, String text, String html, @Nullable String unsubscribe) {

    public LetterJson(String subject, String text, String html) {
        this(subject, text, html, null);
    }

    public static LetterJson of(Letter letter) {
        return new LetterJson(
                letter.subject(),
                letter.text(),
                letter.blocks().stream().map(LetterJson::html).collect(Collectors.joining("\n")));
    }

    private static String html(Letter.Block block) {
        return switch (block) {
            case Letter.Paragraph it -> "<p>" + linked(it.text()) + "</p>";
            case Letter.Prose it -> Markdown.html(it.text());
            case Letter.Items it ->
                it.items().stream().map(LetterJson::html).collect(Collectors.joining("", "<ul>", "</ul>"));
        };
    }

    private static String html(Letter.Item item) {
        return "<li>" + HtmlUtils.htmlEscape(item.text())
                + item.link()
                        .map(HtmlUtils::htmlEscape)
                        .map(link -> " <a href=\"%s\">%s</a>".formatted(link, link))
                        .orElse("")
                + "</li>";
    }

    /** An address at the end of a sentence becomes a link. */
    private static String linked(String text) {
        return HtmlUtils.htmlEscape(text).replaceAll("(https?://\\S+)$", "<a href=\"$1\">$1</a>");
    }
}
