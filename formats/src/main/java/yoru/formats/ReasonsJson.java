package yoru.formats;

import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.access.Access;
import yoru.core.access.Ending;
import yoru.core.access.Entitlement;
import yoru.core.access.Holding;
import yoru.core.access.Reason;
import yoru.core.access.Window;
import yoru.core.access.Windows;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;

/**
 * A window of access with its whole derivation as JSON: facts, holdings, links, entitlements. Times are ISO 8601 in UTC,
 * to the full; a window without an end has none. {@code docs/formats/reasons.md} describes it.
 */
public final class ReasonsJson {

    private ReasonsJson() {}

    public static ObjectNode write(Access access) {
        var node = JsonNodeFactory.instance.objectNode();
        node.put("person", access.person());
        node.put("target", access.target().path());
        put(access.window(), node);
        node.put("state", Fields.word(access.state()));
        node.put("renews", access.renews());
        var entitlements = node.putArray("entitlements");
        access.entitlements().forEach(it -> entitlement(it, entitlements.addObject()));
        return node;
    }

    private static void entitlement(Entitlement entitlement, ObjectNode node) {
        var stretch = entitlement.stretch();
        put(stretch.span(), node);
        windows("open", stretch.open(), node);
        windows("suspended", stretch.suspended(), node);
        windows("takenOut", stretch.takenOut(), node);
        windows("grace", stretch.grace(), node);
        node.put("renews", entitlement.renews());
        ending(entitlement.ending(), node);
        reason(entitlement.reason(), node.putObject("reason"));
    }

    private static void reason(Reason reason, ObjectNode node) {
        switch (reason) {
            case Reason.Linked it -> {
                node.put("kind", "link").put("link", it.link().id());
                holding(it.holding(), node.putObject("holding"));
            }
            case Reason.ByHand it -> {
                node.put("kind", "given").put("grant", it.grant().details().grant());
                node.put("why", it.grant().details().reason());
                fact("fact", it.startedBy(), node);
            }
            case Reason.FromOutside it -> {
                node.put("kind", "outside");
                fact("fact", it.startedBy(), node);
            }
            case Reason.Chosen it -> {
                node.put("kind", "chosen").put("level", it.level().id());
                node.put("since", it.levelSince().toString());
                fact("fact", it.startedBy(), node);
            }
        }
    }

    private static void holding(Holding holding, ObjectNode node) {
        switch (holding) {
            case Holding.Bought it -> {
                node.put("kind", it.claim().isPresent() ? "seat" : "line");
                node.put("order", it.order().id()).put("line", it.line().line());
                node.put("product", it.line().product());
                it.line().option().ifPresent(option -> node.put("option", option));
                node.put("seat", it.seat());
                fact("placed", it.order().placed(), node);
                optional("paid", it.order().paid(), node);
                optional("claimed", it.claim(), node);
            }
            case Holding.Subscribed it -> {
                node.put("kind", "subscription")
                        .put("subscription", it.subscription().id());
                node.put("product", it.product().id());
            }
            case Holding.Held it -> {
                node.put("kind", "held").put("what", it.what().path());
                if (it.through() != null) {
                    entitlement(it.through(), node.putObject("through"));
                }
            }
            case Holding.Finished it -> node.put("kind", "finished").put("course", it.course());
        }
        node.put("start", holding.start().toString());
        fact("startedBy", holding.startedBy(), node);
    }

    private static void ending(@Nullable Ending ending, ObjectNode node) {
        if (ending != null) {
            var end = node.putObject("ending");
            end.put("cause", cause(ending.cause()));
            ending.by().ifPresent(fact -> fact("fact", fact, end));
        }
    }

    private static String cause(Ending.Cause cause) {
        return switch (cause) {
            case Ending.Cause.Elapsed _ -> "length";
            case Ending.Cause.Capped _, Ending.Cause.GivenUntil _ -> "until";
            case Ending.Cause.TakenBack _ -> "taken-back";
            case Ending.Cause.Refunded _ -> "refunded";
            case Ending.Cause.Cancelled _ -> "cancelled";
            case Ending.Cause.Unpaid _ -> "paid-until";
            case Ending.Cause.LastCycle _ -> "last-cycle";
            case Ending.Cause.EndedBy _ -> "ended";
            case Ending.Cause.PlaceLost _ -> "place-lost";
            case Ending.Cause.WithLevel _ -> "with-level";
        };
    }

    private static void optional(String key, Optional<Fact> fact, ObjectNode node) {
        fact.ifPresent(it -> fact(key, it, node));
    }

    private static void fact(String key, Fact fact, ObjectNode node) {
        FactId id = fact.id();
        node.putObject(key)
                .put("source", id.source())
                .put("id", id.id())
                .put("time", fact.time().toString());
    }

    private static void windows(String key, Windows windows, ObjectNode node) {
        if (!windows.isEmpty()) {
            ArrayNode array = node.putArray(key);
            windows.asList().forEach(window -> put(window, array.addObject()));
        }
    }

    private static void put(Window window, ObjectNode node) {
        node.put("start", window.start().toString());
        window.end().map(Instant::toString).ifPresent(end -> node.put("end", end));
    }
}
