package yoru.server.announcements;

import org.commonmark.parser.Parser;
import org.commonmark.renderer.html.HtmlRenderer;

/** CommonMark as HTML. Markup in it is text like any other, and addresses that are no links are none. */
public final class Markdown {

    private static final Parser PARSER = Parser.builder().build();
    private static final HtmlRenderer RENDERER = HtmlRenderer.builder()
            .escapeHtml(true)
            .sanitizeUrls(true)
            .softbreak("<br />\n")
            .build();

    private Markdown() {}

    public static String html(String text) {
        return RENDERER.render(PARSER.parse(text));
    }
}
