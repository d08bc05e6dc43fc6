package yoru.server.followups;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;
import yoru.server.announcements.LetterJson;
import yoru.server.announcements.Markdown;

/**
 * Makes letters of what a school wrote: the text is CommonMark, and goes out as it stands and as HTML. Markup in it is text
 * like any other, and addresses that are no links are none.
 */
@Component
class Wordings {

    /** @param code what stands where the text asks for a code */
    LetterJson letter(String subject, String text, Optional<String> code) {
        var whole = code.map(it -> text.replaceAll("\\{\\{\\s*code\\s*}}", it)).orElse(text);
        return new LetterJson(oneLine(subject), whole, Markdown.html(whole));
    }

    /** The same, with where its reader can stop such letters. */
    LetterJson unasked(String subject, String text, Optional<String> code, String address) {
        var plain = letter(subject, text, code);
        return new LetterJson(
                plain.subject(),
                plain.text().stripTrailing() + "\n\nNo more letters like this: " + address + "\n",
                plain.html() + "<p><a href=\"" + HtmlUtils.htmlEscape(address)
                        + "\">No more letters like this</a></p>\n",
                address);
    }

    private static String oneLine(String subject) {
        return String.join(" ", List.of(subject.strip().split("\\s+", -1)));
    }
}
