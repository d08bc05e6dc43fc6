package yoru.formats;

import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Row;
import yoru.core.rulebook.Followup.Sold;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;

/** Writes a follow-up as a part of a document, without what is the default anyway. */
final class FollowupWriter {

    private FollowupWriter() {}

    static void write(Followup followup, ObjectNode node) {
        RulebookWriter.named(followup.id(), followup.title(), node);
        if (!followup.on()) {
            node.put("on", false);
        }
        followup.since().ifPresent(since -> node.put("since", since.toString()));
        write(followup.when(), node.putObject("when"));
        if (followup.eachLine()) {
            node.put("each", "line");
        }
        if (followup.statedOnce() != null) {
            node.put("once", Fields.word(followup.statedOnce()));
        }
        conditions(node, "only", followup.only());
        conditions(node, "while", followup.whilst());
        if (followup.always()) {
            node.put("lasts", "always");
        }
        steps(node, "steps", followup.steps());
        if (!followup.rows().isEmpty()) {
            var rows = node.putArray("rows");
            followup.rows().forEach(row -> write(row, rows.addObject()));
        }
    }

    private static void write(When when, ObjectNode node) {
        switch (when) {
            case When.OfOrder it -> write(it.of(), node.putObject(Fields.word(it.moment())));
            case When.Claimed it -> write(it.of(), node.putObject("claimed"));
            case When.OfSubscription it -> {
                var subscription = node.putObject("subscription");
                subscription.put("what", Fields.word(it.turn()));
                write(it.of(), subscription.putObject("of"));
            }
            case When.Opened it -> targets(node, "opened", it.targets());
            case When.Ended it -> targets(node, "ended", it.targets());
            case When.Ending it -> {
                var ending = node.putObject("ending");
                targets(ending, "of", it.targets());
                ending.put("before", it.before().toString());
            }
            case When.Completed it -> RulebookWriter.texts(node, "completed", it.courses());
            case When.Account it -> RulebookWriter.texts(node, "account", it.systems());
        }
    }

    private static void write(Sold set, ObjectNode node) {
        sorted(node, "products", set.products());
        sorted(node, "options", set.options());
        sorted(node, "categories", set.categories());
    }

    private static void sorted(ObjectNode node, String key, Set<String> ids) {
        RulebookWriter.texts(node, key, ids.stream().sorted().toList());
    }

    private static void targets(ObjectNode node, String key, List<Destination> targets) {
        var array = node.putArray(key);
        targets.forEach(target -> Destinations.write(target, array.addObject()));
    }

    private static void conditions(ObjectNode node, String key, List<Condition> conditions) {
        if (!conditions.isEmpty()) {
            conditions(node.putArray(key), conditions);
        }
    }

    private static void conditions(ArrayNode array, List<Condition> conditions) {
        conditions.forEach(condition -> write(condition, array.addObject()));
    }

    private static void write(Condition condition, ObjectNode node) {
        switch (condition) {
            case Condition.Has it -> targets(node, "has", it.targets());
            case Condition.Had it -> targets(node, "had", it.targets());
            case Condition.Bought it -> {
                var bought = node.putObject("bought");
                write(it.of(), bought.putObject("of"));
                if (it.counts() != Condition.Counts.PAID) {
                    bought.put("counts", Fields.word(it.counts()));
                }
                if (it.atLeast() != null) {
                    bought.put("atLeast", it.atLeast());
                }
                if (it.atMost() != null) {
                    bought.put("atMost", it.atMost());
                }
            }
            case Condition.Amount it ->
                node.putObject("amount").put("atLeast", it.atLeast().toPlainString());
            case Condition.OfChannel it -> node.put("channel", it.byHand() ? "hand" : "shop");
            case Condition.Field it ->
                node.putObject("field").put("name", it.name()).put("is", it.is());
            case Condition.Any it -> conditions(node.putArray("any"), it.of());
            case Condition.Not it -> write(it.of(), node.putObject("not"));
        }
    }

    private static void steps(ObjectNode node, String key, List<Step> steps) {
        if (!steps.isEmpty()) {
            var array = node.putArray(key);
            steps.forEach(step -> write(step, array.addObject()));
        }
    }

    private static void write(Step step, ObjectNode node) {
        switch (step) {
            case Step.Give it -> {
                var give = node.putObject("give");
                targets(give, "to", it.to());
                if (it.length() != null) {
                    give.put("length", it.length().toString());
                }
            }
            case Step.Take it -> targets(node.putObject("take"), "from", it.from());
            case Step.SetField it ->
                node.putObject("set").put("field", it.field()).put("value", it.value());
            case Step.Write it -> {
                var write = node.putObject("write").put("subject", it.subject()).put("text", it.text());
                if (it.code() != null) {
                    write(it.code(), write.putObject("code"));
                }
            }
            case Step.Tell it -> node.putObject("tell").put("text", it.text());
            case Step.WaitFor it -> node.put("wait", it.length().toString());
            case Step.WaitUntil it -> node.putObject("wait").put("at", it.at().toString());
            case Step.If it -> {
                conditions(node.putArray("if"), it.of());
                steps(node, "then", it.then());
                steps(node, "otherwise", it.otherwise());
            }
            case Step.Stop _ -> node.putObject("stop");
        }
    }

    private static void write(Followup.Code code, ObjectNode node) {
        if (code.percent() != null) {
            node.put("percent", code.percent());
        }
        if (code.amount() != null) {
            node.put("amount", code.amount().toPlainString());
        }
        if (code.of() != null) {
            write(code.of(), node.putObject("of"));
        }
        if (code.expires() != null) {
            node.put("expires", code.expires().toString());
        }
        if (code.uses() != null) {
            node.put("uses", code.uses());
        }
    }

    private static void write(Row row, ObjectNode node) {
        var about = node.putObject("for");
        if (row.product() != null) {
            about.put("product", row.product());
        } else if (row.target() != null) {
            Destinations.write(row.target(), about);
        }
        var values = node.putObject("values");
        new TreeMap<>(row.values()).forEach(values::put);
    }
}
