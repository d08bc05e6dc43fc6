package yoru.formats;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;

/** Changes a rulebook thing by thing and cell by cell. What comes out is checked like a document from outside. */
public final class RulebookEdit {

    /** What of the school can be changed. */
    private static final List<String> SCHOOL = List.of("zone", "currency", "tiers", "opensOn", "ladders", "tagNames");

    /** The lists that hold no things, by what one of each is called. */
    private static final Map<String, String> BESIDES = Map.of("followup", "followups", "door", "doors");

    private RulebookEdit() {}

    /**
     * Things are changed all at once, for one may make room for another; then cells, and only then is it seen whether
     * everything that links name is still there.
     *
     * @throws UnreadableException naming the place of every fault
     */
    public static Rulebook edited(Rulebook rulebook, List<ThingChange> things, List<CellChange> cells) {
        var changed = things.isEmpty() ? rulebook : withThings(rulebook, things).withLinks(rulebook.links());
        return RulebookDocument.consistent(changed.with(cells).withTermsByName());
    }

    private static Rulebook withThings(Rulebook rulebook, List<ThingChange> things) {
        var document = RulebookDocument.write(rulebook.withLinks(List.of()));
        for (ThingChange change : things) {
            if (change.to() == null) {
                remove(document, change.thing());
            } else {
                put(document, change.thing(), change.to());
            }
        }
        return RulebookDocument.read(document);
    }

    /** What differs, thing by thing, in the document's order. */
    public static List<ThingChange> difference(Rulebook before, Rulebook after) {
        var old = RulebookDocument.write(before);
        var now = RulebookDocument.write(after);
        var changes = new ArrayList<ThingChange>();
        for (String key : SCHOOL) {
            var is = now.get("school").get(key);
            if (is == null
                    ? old.get("school").has(key)
                    : !is.equals(old.get("school").get(key))) {
                changes.add(new ThingChange("school/" + key, is));
            }
        }
        for (Sort sort : Sort.values()) {
            changes.addAll(difference(sort.one(), old.path(sort.many()), now.path(sort.many())));
        }
        BESIDES.forEach((one, many) -> changes.addAll(difference(one, old.path(many), now.path(many))));
        return changes;
    }

    private static List<ThingChange> difference(String one, JsonNode old, JsonNode now) {
        var changes = new ArrayList<ThingChange>();
        var was = byId(old);
        byId(now).forEach((id, thing) -> {
            if (!thing.equals(was.remove(id))) {
                changes.add(new ThingChange(one + "/" + id, thing));
            }
        });
        was.keySet().forEach(id -> changes.add(new ThingChange(one + "/" + id, null)));
        return changes;
    }

    private static void put(ObjectNode document, String thing, JsonNode to) {
        var id = id(thing);
        if (isOfSchool(thing)) {
            ((ObjectNode) document.get("school")).set(id, to);
            return;
        }
        if (!to.isObject()) {
            throw fault(thing, "must be an object");
        }
        var whole = document.objectNode().put("id", id);
        whole.setAll((ObjectNode) to);
        if (!id.equals(whole.path("id").asString(""))) {
            throw fault(thing, "has another id inside: " + whole.get("id"));
        }
        var list = document.withArray(list(thing));
        for (int at = 0; at < list.size(); at++) {
            if (id.equals(list.get(at).path("id").asString(""))) {
                list.set(at, whole);
                return;
            }
        }
        list.add(whole);
    }

    private static void remove(ObjectNode document, String thing) {
        var id = id(thing);
        if (isOfSchool(thing)) {
            ((ObjectNode) document.get("school")).remove(id);
            return;
        }
        var list = document.withArray(list(thing));
        list.removeIf(one -> id.equals(one.path("id").asString("")));
        if (list.isEmpty()) {
            document.remove(list(thing));
        }
    }

    private static boolean isOfSchool(String thing) {
        if (!thing.startsWith("school/")) {
            return false;
        }
        if (!SCHOOL.contains(id(thing))) {
            throw fault(thing, "cannot be changed so; allowed: " + String.join(", ", SCHOOL));
        }
        return true;
    }

    private static String list(String thing) {
        var sort = thing.substring(0, Math.max(0, thing.indexOf('/')));
        return Sort.named(sort)
                .map(Sort::many)
                .or(() -> Optional.ofNullable(BESIDES.get(sort)))
                .orElseThrow(() -> fault(
                        thing,
                        "is no sort of thing; allowed: school, "
                                + Stream.concat(
                                                Stream.of(Sort.values()).map(Sort::one),
                                                BESIDES.keySet().stream().sorted())
                                        .collect(Collectors.joining(", "))));
    }

    private static String id(String thing) {
        return thing.substring(thing.indexOf('/') + 1);
    }

    private static Map<String, JsonNode> byId(JsonNode list) {
        Map<String, JsonNode> things = new LinkedHashMap<>();
        list.forEach(thing -> things.put(thing.get("id").stringValue(), thing));
        return things;
    }

    private static UnreadableException fault(String thing, String problem) {
        return new UnreadableException(List.of(new Fault(thing, problem)));
    }
}
