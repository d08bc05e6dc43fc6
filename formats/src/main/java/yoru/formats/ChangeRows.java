package yoru.formats;

import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.access.Access;
import yoru.core.access.Window;
import yoru.core.impact.Change;

/**
 * What another rulebook changes, as CSV or JSON. Windows are ISO 8601 intervals with an open end written {@code ..},
 * several parted by a space; {@code when} says whether something opens or closes at once.
 */
public final class ChangeRows {

    public static final String HEADER = "person,target,change,when,before,after\n";

    private ChangeRows() {}

    public static String row(Change change) {
        return String.join(
                        ",",
                        AccessCsv.quoted(change.person()),
                        AccessCsv.quoted(change.target().path()),
                        kind(change),
                        when(change),
                        windows(change.before()),
                        windows(change.after()))
                + "\n";
    }

    /** With the reasons before and after. */
    public static ObjectNode json(Change change) {
        var node = JsonNodeFactory.instance.objectNode();
        node.put("person", change.person());
        node.put("target", change.target().path());
        node.put("change", kind(change));
        node.put("when", when(change));
        var before = node.putArray("before");
        change.before().forEach(access -> before.add(ReasonsJson.write(access)));
        var after = node.putArray("after");
        change.after().forEach(access -> after.add(ReasonsJson.write(access)));
        return node;
    }

    private static String kind(Change change) {
        return change.kind().name().toLowerCase(Locale.ROOT);
    }

    private static String when(Change change) {
        return change.now() ? "now" : "later";
    }

    private static String windows(List<Access> access) {
        return access.stream().map(Access::window).map(ChangeRows::interval).collect(Collectors.joining(" "));
    }

    private static String interval(Window window) {
        return AccessCsv.seconds(window.start())
                + "/"
                + window.end().map(AccessCsv::seconds).orElse("..");
    }
}
