package yoru.formats;

import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Looks over what one follow-up says of a rulebook's other parts, and whether it fits together. */
final class FollowupReferences {

    private static final Set<String> OF_ORDER =
            Set.of("placed", "paid", "fulfilled", "cancelled", "refunded", "claimed");
    private static final List<String> NAMES =
            List.of("person.name", "person.address", "thing.title", "order", "until", "signIn");
    private static final Pattern PLACEHOLDER = Pattern.compile("\\{\\{\\s*(.*?)\\s*}}");
    private static final String ROW = "row.";

    private final RulebookReferences check;
    private final JsonNode followup;
    private final String place;
    /** What rows give values for. */
    private final Set<String> names = new TreeSet<>();

    FollowupReferences(RulebookReferences check, JsonNode followup, String place) {
        this.check = check;
        this.followup = followup;
        this.place = place;
    }

    void look() {
        var when = followup.path("when");
        var kind = when.propertyNames().stream().findFirst().orElse("");
        boolean line = "line".equals(followup.path("each").asString(""));
        boolean ofOrder = OF_ORDER.contains(kind);
        boolean thing = ofOrder ? line || kind.equals("claimed") : !kind.equals("account");
        if (followup.has("each") && !ofOrder) {
            check.fault(place + ".each", "is only for what happened to an order, and this waits for `" + kind + "`");
        }
        once(ofOrder, thing);
        when(when, kind);
        rows(thing);
        conditions(followup.path("only"), place + ".only");
        conditions(followup.path("while"), place + ".while");
        steps(followup.path("steps"), place + ".steps");
    }

    private void once(boolean ofOrder, boolean thing) {
        var once = followup.path("once").asString("");
        if (once.equals("order") && !ofOrder) {
            check.fault(place + ".once", "order: what it waits for has no order; allowed: always, thing, person");
        } else if (once.equals("thing") && !thing) {
            check.fault(
                    place + ".once",
                    "thing: what it waits for is about no one thing; allowed: always, order, person, or each: line");
        }
    }

    private void when(JsonNode when, String kind) {
        var at = place + ".when." + kind;
        var of = when.path(kind);
        switch (kind) {
            case "subscription" -> sold(of.path("of"), at + ".of");
            case "opened", "ended" -> targets(of, at);
            case "ending" -> targets(of.path("of"), at + ".of");
            case "completed" ->
                RulebookReferences.each(
                        of, (course, number) -> check.reference("course", course, at + "[" + number + "]"));
            case "account" -> {}
            default -> sold(of, at);
        }
    }

    private void sold(JsonNode set, String at) {
        for (String kind : List.of("product", "option")) {
            RulebookReferences.each(
                    set.path(kind + "s"),
                    (id, number) -> check.reference(kind, id, at + "." + kind + "s[" + number + "]"));
        }
    }

    /** One, or a list of them. */
    private void targets(JsonNode targets, String at) {
        if (targets.isObject()) {
            check.target(targets, at);
        }
        RulebookReferences.each(targets, (target, number) -> check.target(target, at + "[" + number + "]"));
    }

    private void rows(boolean thing) {
        if (!followup.has("rows")) {
            return;
        }
        if (!thing) {
            check.fault(place + ".rows", "need something to be for; allowed here: each: line, or no rows");
        }
        Set<JsonNode> seen = new HashSet<>();
        RulebookReferences.each(followup.path("rows"), (row, number) -> {
            var at = place + ".rows[" + number + "]";
            var about = row.path("for");
            if (about.has("product")) {
                check.reference("product", about.path("product"), at + ".for.product");
            } else {
                check.target(about, at + ".for");
            }
            if (!seen.add(about)) {
                check.fault(at + ".for", "stands twice");
            }
            var given = new TreeSet<>(row.path("values").propertyNames());
            if (number == 0) {
                names.addAll(given);
            } else if (!given.equals(names)) {
                check.fault(at + ".values", "must give the same names as the first row: " + String.join(", ", names));
            }
        });
    }

    private void conditions(JsonNode conditions, String at) {
        RulebookReferences.each(conditions, (condition, number) -> condition(condition, at + "[" + number + "]"));
    }

    private void condition(JsonNode condition, String at) {
        targets(condition.path("has"), at + ".has");
        targets(condition.path("had"), at + ".had");
        sold(condition.path("bought").path("of"), at + ".bought.of");
        conditions(condition.path("any"), at + ".any");
        if (condition.has("not")) {
            condition(condition.path("not"), at + ".not");
        }
    }

    /** @return whether nothing behind them is ever reached */
    private boolean steps(JsonNode steps, String at) {
        var stopped = new boolean[1];
        RulebookReferences.each(steps, (step, number) -> {
            var here = at + "[" + number + "]";
            if (stopped[0]) {
                check.fault(here, "can never be reached: what stands before it always stops");
                stopped[0] = false;
            }
            stopped[0] = step(step, here);
        });
        return stopped[0];
    }

    private boolean step(JsonNode step, String at) {
        given(step.path("give").path("to"), at + ".give.to");
        given(step.path("take").path("from"), at + ".take.from");
        text(step.path("set").path("value"), at + ".set.value", false);
        var write = step.path("write");
        text(write.path("subject"), at + ".write.subject", write.has("code"));
        text(write.path("text"), at + ".write.text", write.has("code"));
        sold(write.path("code").path("of"), at + ".write.code.of");
        text(step.path("tell").path("text"), at + ".tell.text", false);
        conditions(step.path("if"), at + ".if");
        boolean then = steps(step.path("then"), at + ".then");
        boolean otherwise = steps(step.path("otherwise"), at + ".otherwise");
        return step.has("stop") || (then && otherwise);
    }

    /** Ids may come from a row: then they must be there for each of them. */
    private void given(JsonNode targets, String at) {
        RulebookReferences.each(targets, (target, number) -> {
            var here = at + "[" + number + "]";
            var asked = new LinkedHashSet<String>();
            for (JsonNode value : target) {
                placeholders(value.asString(""), here, asked);
            }
            if (asked.isEmpty()) {
                check.target(target, here);
                return;
            }
            for (String name : asked) {
                if (!name.startsWith(ROW)) {
                    check.fault(here, "only `{{row.NAME}}` may stand in an id, not `{{" + name + "}}`");
                }
            }
            filled(target, here);
        });
    }

    private void filled(JsonNode target, String at) {
        RulebookReferences.each(followup.path("rows"), (row, number) -> {
            var whole = (ObjectNode) target.deepCopy();
            for (String key : List.copyOf(whole.propertyNames())) {
                if (whole.get(key).isString()) {
                    whole.put(key, fill(whole.get(key).stringValue(), row.path("values")));
                }
            }
            check.target(whole, at + " with rows[" + number + "]");
        });
    }

    private static String fill(String text, JsonNode values) {
        return PLACEHOLDER
                .matcher(text)
                .replaceAll(found -> Matcher.quoteReplacement(
                        found.group(1).startsWith(ROW)
                                ? values.path(found.group(1).substring(ROW.length()))
                                        .asString("")
                                : found.group()));
    }

    private void text(JsonNode text, String at, boolean code) {
        var asked = new LinkedHashSet<String>();
        placeholders(text.asString(""), at, asked);
        for (String name : asked) {
            boolean known = NAMES.contains(name) || (code && name.equals("code")) || name.startsWith(ROW);
            if (!known) {
                var allowed = new TreeSet<>(NAMES);
                names.forEach(row -> allowed.add(ROW + row));
                if (code) {
                    allowed.add("code");
                }
                check.fault(
                        at,
                        "no placeholder `{{" + name + "}}`" + Nearest.to(name, allowed) + "; allowed: "
                                + String.join(", ", allowed));
            }
        }
    }

    /** Those of a text; of a row none but what its rows give. */
    private void placeholders(String text, String at, Set<String> into) {
        var found = PLACEHOLDER.matcher(text);
        while (found.find()) {
            var name = found.group(1);
            into.add(name);
            if (name.startsWith(ROW) && !names.contains(name.substring(ROW.length()))) {
                check.fault(
                        at,
                        "no row gives `" + name.substring(ROW.length()) + "`"
                                + Nearest.to(name.substring(ROW.length()), names));
            }
        }
    }
}
