package yoru.formats;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.letters.Placeholders;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Sort;

/**
 * Looks over what a rulebook's parts say of each other: ids that stand twice, ids that nothing has, what is allowed only
 * together. Works on the document itself, so that it has something to say also where the document has other faults.
 */
final class RulebookReferences {

    private static final List<String> BOUGHT = List.of("product", "option", "category");

    private final JsonNode document;
    private final List<Fault> faults = new ArrayList<>();
    private final Map<String, Set<String>> ids = new HashMap<>();
    private final Map<String, Set<String>> sections = new LinkedHashMap<>();

    /** Named terms under which what comes again adds its time at the end. */
    private final Set<String> extending = new HashSet<>();

    private RulebookReferences(JsonNode document) {
        this.document = document;
    }

    static List<Fault> faults(JsonNode document) {
        var check = new RulebookReferences(document);
        check.collect();
        check.courses();
        check.levels();
        check.links();
        check.followups();
        check.doors();
        return check.faults;
    }

    private void collect() {
        for (Sort sort : Sort.values()) {
            collect(sort.one(), document.path(sort.many()), sort.many());
        }
        each(
                document.path("namedTerms"),
                (named, at) -> extending(named.path("terms"), named.path("id").asString("")));
        each(
                document.path("school").path("tagNames"),
                (name, at) -> once("name for the role", name.path("role"), "school.tagNames[" + at + "].role"));
        collect("link", document.path("links"), "links");
        collect("ladder", document.path("school").path("ladders"), "school.ladders");
        each(document.path("school").path("tiers"), (tier, at) -> once("tier", tier, "school.tiers[" + at + "]"));
        each(
                document.path("products"),
                (product, at) -> collect("option", product.path("options"), "products[" + at + "].options"));
        ids.put("completed", known("course"));
    }

    private void collect(String kind, JsonNode list, String place) {
        each(list, (thing, at) -> once(kind, thing.path("id"), place + "[" + at + "].id"));
    }

    private void once(String kind, JsonNode id, String place) {
        if (id.isString()
                && !ids.computeIfAbsent(kind, it -> new LinkedHashSet<>()).add(id.stringValue())) {
            fault(place, "`" + id.stringValue() + "` stands twice");
        }
    }

    private void courses() {
        each(document.path("courses"), (course, at) -> {
            Set<String> seen = new LinkedHashSet<>();
            each(course.path("sections"), (section, number) -> {
                var place = "courses[" + at + "].sections[" + number + "]";
                var id = section.path("id");
                if (id.isString() && !seen.add(id.stringValue())) {
                    fault(place + ".id", "`" + id.stringValue() + "` stands twice");
                }
                reference("tier", section.path("tier"), place + ".tier");
            });
            if (course.path("id").isString()) {
                sections.putIfAbsent(course.get("id").stringValue(), seen);
            }
        });
    }

    private void levels() {
        Map<String, Map<Integer, String>> taken = new HashMap<>();
        each(document.path("levels"), (level, at) -> {
            var place = "levels[" + at + "]";
            reference("ladder", level.path("ladder"), place + ".ladder");
            if (level.path("ladder").isString() && level.path("rank").isInt()) {
                var other = taken.computeIfAbsent(level.get("ladder").stringValue(), it -> new HashMap<>())
                        .putIfAbsent(
                                level.get("rank").intValue(), level.path("id").asString(""));
                if (other != null) {
                    fault(place + ".rank", "is the rank of `" + other + "` too; ranks on a ladder must differ");
                }
            }
            each(
                    level.path("allowance").path("except"),
                    (course, number) -> reference("course", course, place + ".allowance.except[" + number + "]"));
        });
    }

    private void links() {
        each(document.path("links"), (link, at) -> {
            var place = "links[" + at + "]";
            var from = link.path("from");
            for (String kind : List.of("product", "option", "level", "tag", "completed")) {
                reference(kind, from.path(kind), place + ".from." + kind);
            }
            each(link.path("to"), (target, number) -> target(target, place + ".to[" + number + "]"));
            reference("terms", link.path("named"), place + ".named");
            if (link.has("named") && link.has("terms")) {
                fault(place + ".terms", "stands beside `named`; allowed: one of them");
            }
            var named = link.path("named").asString("");
            boolean extend = isExtending(link.path("terms")) || extending.contains(named);
            if (extend && from.size() > 0 && BOUGHT.stream().noneMatch(from::has)) {
                fault(
                        link.has("named") ? place + ".named" : place + ".terms.repeat",
                        "extend is only for links from a product, an option or a category; allowed here: overlap");
            }
        });
    }

    private void followups() {
        collect("follow-up", document.path("followups"), "followups");
        each(
                document.path("followups"),
                (followup, at) -> new FollowupReferences(this, followup, "followups[" + at + "]").look());
    }

    private void doors() {
        collect("door", document.path("doors"), "doors");
        each(document.path("doors"), (door, at) -> {
            var place = door.path("id").asString("");
            int slash = place.indexOf('/');
            var sort = place.substring(0, Math.max(0, slash));
            if (sort.equals("section")) {
                var path = JsonNodeFactory.instance.objectNode();
                int last = place.lastIndexOf('/');
                path.putArray("section")
                        .add(place.substring(slash + 1, Math.max(slash + 1, last)))
                        .add(place.substring(last + 1));
                target(path, "doors[" + at + "].id");
            } else if (slash > 0) {
                reference(
                        sort, JsonNodeFactory.instance.stringNode(place.substring(slash + 1)), "doors[" + at + "].id");
            }
            door(door, place, "doors[" + at + "]");
        });
    }

    private void door(JsonNode door, String of, String place) {
        var sides = Door.sidesOf(of);
        for (Door.Side side : Door.Side.values()) {
            if (door.has(side.key()) && !sides.contains(side)) {
                fault(
                        place + "." + side.key(),
                        "is not for a " + of.substring(0, Math.max(0, of.indexOf('/'))) + "; allowed: "
                                + sides.stream().map(Door.Side::key).collect(Collectors.joining(", ")));
            }
            Placeholders.in(door.path(side.key()).path("text").asString(""))
                    .filter(name -> !side.placeholders().contains(name))
                    .distinct()
                    .forEach(name -> fault(
                            place + "." + side.key() + ".text",
                            "there is no {{" + name + "}} here; allowed: "
                                    + side.placeholders().stream()
                                            .map(it -> "{{" + it + "}}")
                                            .collect(Collectors.joining(", "))));
        }
        boolean isCourse = of.startsWith("course/") || of.equals(Door.SCHOOL);
        if (door.has("openParts") && !isCourse) {
            fault(place + ".openParts", "is only for a course or the school");
        }
        if (door.has("signedIn") && !isCourse && !of.startsWith("level/")) {
            fault(place + ".signedIn", "is only for a course, a level or the school");
        }
    }

    private static boolean isExtending(JsonNode terms) {
        return "extend".equals(terms.path("repeat").asString(""));
    }

    private void extending(JsonNode terms, String name) {
        if (isExtending(terms)) {
            extending.add(name);
        }
    }

    void target(JsonNode target, String place) {
        for (String kind : List.of("course", "tag", "level", "group", "area", "download", "list", "tier")) {
            reference(kind, target.path(kind), place + "." + kind);
        }
        each(target.path("except"), (course, at) -> reference("course", course, place + ".except[" + at + "]"));
        var section = target.path("section");
        if (section.size() == 2 && section.get(0).isString()) {
            reference("course", section.get(0), place + ".section[0]");
            var course = section.get(0).stringValue();
            var itsSections = sections.get(course);
            if (itsSections != null
                    && section.get(1).isString()
                    && !itsSections.contains(section.get(1).stringValue())) {
                var name = section.get(1).stringValue();
                fault(
                        place + ".section[1]",
                        "no section `" + name + "` in course `" + course + "`" + Nearest.to(name, itsSections));
            }
        }
    }

    void reference(String kind, JsonNode id, String place) {
        if (id.isString() && !known(kind).contains(id.stringValue())) {
            var what = kind.equals("completed") ? "course" : kind;
            fault(place, "no " + what + " `" + id.stringValue() + "`" + Nearest.to(id.stringValue(), known(kind)));
        }
    }

    private Set<String> known(String kind) {
        return ids.computeIfAbsent(kind, it -> new HashSet<>());
    }

    void fault(String place, String problem) {
        faults.add(new Fault(place, problem));
    }

    interface Look {
        void at(JsonNode node, int place);
    }

    static void each(JsonNode list, Look look) {
        if (list.isArray()) {
            for (int at = 0; at < list.size(); at++) {
                look.at(list.get(at), at);
            }
        }
    }
}
