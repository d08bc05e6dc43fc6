package yoru.server.announcements;

import java.util.List;
import org.commonmark.ext.autolink.AutolinkExtension;
import org.commonmark.parser.Parser;
import org.commonmark.renderer.html.HtmlRenderer;

/** CommonMark as HTML. Markup in it is text like any other, and only addresses of the web and of mail are links, also bare ones. */
public final class Markdown {

    private static final Parser PARSER =
            Parser.builder().extensions(List.of(AutolinkExtension.create())).build();
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
