package yoru.formats;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rehearsal.Doing;
import yoru.core.rehearsal.Expectation;
import yoru.core.rehearsal.Expectation.End;
import yoru.core.rehearsal.Script;
import yoru.core.rehearsal.Script.Cue;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Target;

/** Writes a story as it is read; defaults are left out. */
final class StoryWriter {

    private StoryWriter() {}

    static ObjectNode write(Script script) {
        var document = JsonMapper.shared().createObjectNode();
        document.put("yoru", StoryDocument.FORMAT).put("id", script.id());
        if (!script.title().equals(script.id())) {
            document.put("title", script.title());
        }
        document.put("starts", script.starts().toString());
        var people = document.putArray("people");
        script.people().forEach(player -> write(player, people.addObject()));
        if (script.scenes().stream().anyMatch(Scene::isBefore)) {
            var before = document.putArray("before");
            script.scenes().stream().filter(Scene::isBefore).forEach(scene -> write(scene, before.addObject()));
        }
        var steps = document.putArray("steps");
        script.scenes().stream().filter(scene -> !scene.isBefore()).forEach(scene -> write(scene, steps.addObject()));
        return document;
    }

    private static void write(Player player, ObjectNode node) {
        node.put("id", player.id());
        if (!player.name().equals(player.id())) {
            node.put("name", player.name());
        }
        if (!player.address().equals(player.id() + "@story.invalid")) {
            node.put("address", player.address());
        }
    }

    private static void write(Scene scene, ObjectNode node) {
        switch (scene.cue()) {
            case Cue.At it -> node.put(scene.isBefore() ? "at" : "on", it.time().toString());
            case Cue.After it -> {
                if (!it.equals(Cue.After.AT_ONCE)) {
                    node.put("after", period(it));
                }
            }
        }
        text(node, "who", scene.who());
        write(scene.doing(), node);
    }

    /** {@code P1DT2H}. */
    private static String period(Cue.After after) {
        if (after.time().equals(Duration.ZERO)) {
            return after.days().toString();
        }
        var time = after.time().toString();
        return after.days().isZero() ? time : after.days() + time.substring(1);
    }

    private static void write(Doing doing, ObjectNode node) {
        switch (doing) {
            case Doing.Buys it -> buys(it, node.putObject("buys"));
            case Doing.Turns it -> number(node.putObject(Fields.word(it.turn())), "order", it.order());
            case Doing.Refunds it -> {
                var refunds = node.putObject("refunds");
                number(refunds, "order", it.order());
                number(refunds, "line", it.line());
                text(refunds, "amount", it.amount() == null ? null : it.amount().toPlainString());
            }
            case Doing.RefundsSubscription it -> number(node.putObject("refunds"), "subscription", it.subscription());
            case Doing.Part it -> {
                var part = node.putObject(it.isPaid() ? "pays-part" : "fails-part");
                number(part, "order", it.order());
                number(part, "line", it.line());
                number(part, "number", it.number());
            }
            case Doing.Claims it -> {
                var claims = node.putObject("claims");
                number(claims, "order", it.order());
                number(claims, "line", it.line());
                number(claims, "seat", it.seat());
            }
            case Doing.Subscribes it -> {
                var subscribes = node.putObject("subscribes").put("product", it.product());
                text(subscribes, "option", it.option());
                text(subscribes, "trial", it.trial() == null ? null : it.trial().toString());
            }
            case Doing.Renews it -> number(node.putObject("renews"), "subscription", it.subscription());
            case Doing.Fails it -> number(node.putObject("fails"), "subscription", it.subscription());
            case Doing.Resigns it -> {
                var resigns = node.putObject("resigns");
                number(resigns, "subscription", it.subscription());
                text(resigns, "at", it.atPeriodEnd() ? null : "now");
            }
            case Doing.Studies it -> node.putObject(Fields.word(it.study())).put("course", it.course());
            case Doing.Level it ->
                node.putObject(it.gets() ? "gets-level" : "loses-level").put("level", it.level());
            case Doing.Tag it ->
                node.putObject(it.gets() ? "gets-tag" : "loses-tag").put("tag", it.tag());
            case Doing.IsGiven it -> {
                var given = node.putObject("is-given");
                var to = given.putArray("to");
                it.to().forEach(one -> Destinations.write(one, to.addObject()));
                text(given, "length", it.length() == null ? null : it.length().toString());
            }
            case Doing.IsEnded it -> number(node.putObject("is-ended"), "grant", it.grant());
            case Doing.Joins it -> node.putObject("joins").put("person", it.person());
            case Doing.LetIn it -> number(node.putObject("let-in"), "order", it.order());
            case Doing.Expects it -> expects(it.expectation(), node.putObject("expect"));
            case Doing.Nothing _ -> {}
        }
    }

    private static void buys(Doing.Buys buys, ObjectNode node) {
        var lines = node.putArray("lines");
        for (Doing.Item item : buys.lines()) {
            var line = lines.addObject().put("product", item.product());
            text(line, "option", item.option());
            if (item.quantity() != 1) {
                line.put("quantity", item.quantity());
            }
            text(line, "amount", item.amount() == null ? null : item.amount().toPlainString());
            text(line, "giftTo", item.giftTo());
        }
        if (buys.pays() != Doing.Pays.NOW) {
            node.put("pays", Fields.word(buys.pays()));
        }
        if (buys.as() != Doing.As.NEW) {
            node.put("as", Fields.word(buys.as()));
        }
    }

    private static void expects(Expectation expected, ObjectNode node) {
        text(node, "who", expected.who());
        targets(node, "open", expected.open());
        targets(node, "closed", expected.closed());
        if (!expected.until().isEmpty()) {
            var until = node.putObject("until");
            expected.until()
                    .forEach((target, end) -> until.put(
                            target.path(),
                            switch (end) {
                                case End.Never _ -> "never";
                                case End.OnDay it -> it.day().toString();
                                case End.AtTime it -> it.time().toString();
                            }));
        }
        if (expected.exactly() != null) {
            var exactly = node.putArray("exactly");
            expected.exactly().forEach(target -> exactly.add(target.path()));
        }
        RulebookWriter.texts(node, "done", expected.done());
        RulebookWriter.texts(node, "not-done", expected.notDone());
        if (!expected.told().isEmpty()) {
            var told = node.putObject("told");
            expected.told().forEach((system, held) -> {
                var its = told.putObject(system);
                targets(its, "open", held.open());
                targets(its, "closed", held.closed());
            });
        }
    }

    private static void targets(ObjectNode node, String key, List<Target> targets) {
        RulebookWriter.texts(node, key, targets.stream().map(Target::path).toList());
    }

    private static void number(ObjectNode node, String key, @Nullable Integer number) {
        if (number != null) {
            node.put(key, number);
        }
    }

    private static void text(ObjectNode node, String key, @Nullable String text) {
        if (text != null) {
            node.put(key, text);
        }
    }
}
