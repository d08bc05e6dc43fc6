package yoru.formats;

import java.util.List;
import java.util.Set;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Target;

/** Where a link or something given by hand leads, as an object with one key that says the kind. */
final class Destinations {

    private static final List<String> KINDS =
            List.of("course", "category", "section", "tag", "level", "group", "area", "download", "list");
    private static final Set<String> KEYS = Set.of(
            "course", "category", "section", "tag", "level", "group", "area", "download", "list", "tier", "except");

    private Destinations() {}

    static Destination read(Fields to) {
        to.allow(KEYS);
        var kinds = KINDS.stream().filter(to::has).toList();
        if (kinds.size() != 1) {
            to.fault("", "must be an object with exactly one of " + String.join(", ", KINDS));
            return new Destination.Exactly(new Target.OfTag(""));
        }
        var kind = kinds.getFirst();
        return switch (kind) {
            case "course" -> new Destination.OfCourse(to.text("course"), to.optionalText("tier"));
            case "category" ->
                new Destination.OfCategory(to.text("category"), to.texts("except"), to.optionalText("tier"));
            case "section" -> {
                var both = to.texts("section");
                if (both.size() != 2) {
                    to.fault("section", "must be a list of a course and one of its sections");
                    yield new Destination.Exactly(new Target.OfSection("", ""));
                }
                yield new Destination.Exactly(new Target.OfSection(both.get(0), both.get(1)));
            }
            case "tag" -> new Destination.Exactly(new Target.OfTag(to.text(kind)));
            case "level" -> new Destination.Exactly(new Target.OfLevel(to.text(kind)));
            case "group" -> new Destination.Exactly(new Target.OfGroup(to.text(kind)));
            case "area" -> new Destination.Exactly(new Target.OfArea(to.text(kind)));
            case "download" -> new Destination.Exactly(new Target.OfDownload(to.text(kind)));
            default -> new Destination.Exactly(new Target.OfList(to.text(kind)));
        };
    }

    static void write(Destination destination, ObjectNode node) {
        switch (destination) {
            case Destination.OfCourse it -> {
                node.put("course", it.course());
                it.tier().ifPresent(tier -> node.put("tier", tier));
            }
            case Destination.OfCategory it -> {
                node.put("category", it.category());
                RulebookWriter.texts(node, "except", it.except());
                it.tier().ifPresent(tier -> node.put("tier", tier));
            }
            case Destination.Exactly it -> write(it.target(), node);
        }
    }

    private static void write(Target target, ObjectNode node) {
        switch (target) {
            case Target.OfCourse it -> node.put("course", it.course());
            case Target.OfSection it ->
                node.putArray("section").add(it.course()).add(it.section());
            case Target.OfTag it -> node.put("tag", it.tag());
            case Target.OfLevel it -> node.put("level", it.level());
            case Target.OfGroup it -> node.put("group", it.group());
            case Target.OfArea it -> node.put("area", it.area());
            case Target.OfDownload it -> node.put("download", it.download());
            case Target.OfList it -> node.put("list", it.list());
        }
    }
}
