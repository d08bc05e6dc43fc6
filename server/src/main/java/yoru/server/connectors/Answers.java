package yoru.server.connectors;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import yoru.server.systems.Connector.Sample;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** Reads what systems answer; anything may be missing or of the wrong type there. */
public final class Answers {

    private static final int LONGEST_SAMPLE = 4_000;

    private Answers() {}

    /** A text that has to be there. */
    public static String text(JsonNode node, String key) {
        if (!node.path(key).isString() || node.get(key).stringValue().isBlank()) {
            throw unreadable("no text " + key);
        }
        return node.get(key).stringValue();
    }

    /** Every member of an array that has to be there. */
    public static <T> List<T> each(JsonNode node, String key, Function<JsonNode, T> read) {
        if (!node.path(key).isArray()) {
            throw unreadable("no list of " + key);
        }
        var all = new ArrayList<T>();
        node.get(key).forEach(member -> all.add(read.apply(member)));
        return all;
    }

    /** The first of a list, to show that the other side is what it should be. */
    public static Sample first(JsonNode node, String key, String what) {
        var members = each(node, key, Function.identity());
        return members.isEmpty() ? new Sample("nothing yet", "") : new Sample(what, shortened(members.getFirst()));
    }

    public static String shortened(JsonNode node) {
        var text = node.toPrettyString();
        return text.length() > LONGEST_SAMPLE ? text.substring(0, LONGEST_SAMPLE) + "…" : text;
    }

    public static TroubleException unreadable(String why) {
        return new TroubleException(
                Trouble.UNREADABLE, "answered with something else than was asked for (" + why + ")");
    }

    /** An address for a browser; none where there is none, or something else that a browser must not follow. */
    public static @Nullable String link(JsonNode node, String key) {
        var text = node.path(key).asString("");
        return text.startsWith("https://") || text.startsWith("http://") ? text : null;
    }
}
