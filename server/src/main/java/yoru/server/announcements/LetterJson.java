package yoru.server.announcements;

import java.util.stream.Collectors;
import org.springframework.web.util.HtmlUtils;
import yoru.core.letters.Letter;

/** A letter as the systems that carry letters take it: as text and as HTML. */
public record LetterJson(String subject, String text, String html) {

    public static LetterJson of(Letter letter) {
        return new LetterJson(
                letter.subject(),
                letter.text(),
                letter.blocks().stream().map(LetterJson::html).collect(Collectors.joining("\n")));
    }

    private static String html(Letter.Block block) {
        return switch (block) {
            case Letter.Paragraph it -> "<p>" + linked(it.text()) + "</p>";
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
