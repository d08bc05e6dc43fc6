package yoru.formats;

import java.time.LocalTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Row;
import yoru.core.rulebook.Followup.Sold;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;

/** Makes a follow-up of a part of a document that has the form of one. */
final class FollowupReader {

    private static final List<String> OF_ORDER = List.of("placed", "paid", "fulfilled", "cancelled", "refunded");

    private FollowupReader() {}

    static Followup read(Fields followup) {
        var id = followup.text("id");
        return new Followup(
                id,
                Objects.requireNonNullElse(followup.optionalText("title"), id),
                !followup.has("on") || followup.flag("on"),
                followup.optionalInstant("since"),
                when(followup.object("when")),
                "line".equals(followup.optionalText("each")),
                followup.has("once") ? followup.oneOf("once", Followup.Once.class, null) : null,
                followup.objects("only", FollowupReader::condition),
                followup.objects("while", FollowupReader::condition),
                "always".equals(followup.optionalText("lasts")),
                followup.objects("steps", FollowupReader::step),
                followup.objects("rows", FollowupReader::row));
    }

    private static When when(Fields when) {
        for (String moment : OF_ORDER) {
            if (when.has(moment)) {
                return new When.OfOrder(
                        When.Moment.valueOf(moment.toUpperCase(Locale.ROOT)), sold(when.object(moment)));
            }
        }
        if (when.has("claimed")) {
            return new When.Claimed(sold(when.object("claimed")));
        }
        if (when.has("subscription")) {
            var subscription = when.object("subscription");
            return new When.OfSubscription(
                    subscription.oneOf("what", When.Turn.class, null), sold(subscription.object("of")));
        }
        if (when.has("opened")) {
            return new When.Opened(targets(when, "opened"));
        }
        if (when.has("ended")) {
            return new When.Ended(targets(when, "ended"));
        }
        if (when.has("ending")) {
            var ending = when.object("ending");
            return new When.Ending(targets(ending, "of"), ending.period("before"));
        }
        return when.has("completed")
                ? new When.Completed(when.texts("completed"))
                : new When.Account(when.texts("account"));
    }

    private static Sold sold(Fields set) {
        return new Sold(
                Set.copyOf(set.texts("products")),
                Set.copyOf(set.texts("options")),
                Set.copyOf(set.texts("categories")));
    }

    /** One, or a list of them. */
    private static List<Destination> targets(Fields of, String key) {
        return of.oneOrMore(key, Destinations::read);
    }

    private static Condition condition(Fields condition) {
        if (condition.has("has")) {
            return new Condition.Has(targets(condition, "has"));
        }
        if (condition.has("had")) {
            return new Condition.Had(targets(condition, "had"));
        }
        if (condition.has("bought")) {
            var bought = condition.object("bought");
            return new Condition.Bought(
                    sold(bought.object("of")),
                    bought.oneOf("counts", Condition.Counts.class, Condition.Counts.PAID),
                    bought.optionalNumber("atLeast"),
                    bought.optionalNumber("atMost"));
        }
        if (condition.has("amount")) {
            return new Condition.Amount(condition.object("amount").amount("atLeast"));
        }
        if (condition.has("channel")) {
            return new Condition.OfChannel(condition.text("channel").equals("hand"));
        }
        if (condition.has("field")) {
            var field = condition.object("field");
            return new Condition.Field(field.text("name"), field.anyText("is"));
        }
        return condition.has("any")
                ? new Condition.Any(condition.objects("any", FollowupReader::condition))
                : new Condition.Not(condition(condition.object("not")));
    }

    private static Step step(Fields step) {
        if (step.has("give")) {
            var give = step.object("give");
            return new Step.Give(give.objects("to", Destinations::read), give.optionalPeriod("length"));
        }
        if (step.has("take")) {
            return new Step.Take(step.object("take").objects("from", Destinations::read));
        }
        if (step.has("set")) {
            var set = step.object("set");
            return new Step.SetField(set.text("field"), set.anyText("value"));
        }
        if (step.has("write")) {
            var write = step.object("write");
            return new Step.Write(
                    write.anyText("subject"),
                    write.anyText("text"),
                    write.has("code") ? code(write.object("code")) : null);
        }
        if (step.has("tell")) {
            return new Step.Tell(step.object("tell").anyText("text"));
        }
        if (step.has("wait")) {
            return step.isObject("wait")
                    ? new Step.WaitUntil(LocalTime.parse(step.object("wait").text("at")))
                    : new Step.WaitFor(step.period("wait"));
        }
        if (step.has("if")) {
            return new Step.If(
                    step.objects("if", FollowupReader::condition),
                    step.objects("then", FollowupReader::step),
                    step.objects("otherwise", FollowupReader::step));
        }
        return new Step.Stop();
    }

    private static Followup.Code code(Fields code) {
        return new Followup.Code(
                code.optionalDecimal("percent"),
                code.optionalAmount("amount"),
                code.has("of") ? sold(code.object("of")) : null,
                code.optionalPeriod("expires"),
                code.optionalNumber("uses"));
    }

    private static Row row(Fields row) {
        var about = row.object("for");
        Map<String, String> values = new LinkedHashMap<>();
        var given = row.object("values");
        new ArrayList<>(given.keys()).forEach(key -> values.put(key, given.anyText(key)));
        return about.has("product")
                ? new Row(about.text("product"), null, values)
                : new Row(null, Destinations.read(about), values);
    }
}
