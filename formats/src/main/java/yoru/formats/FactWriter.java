package yoru.formats;

import io.cloudevents.core.builder.CloudEventBuilder;
import io.cloudevents.jackson.JsonFormat;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.ZoneOffset;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;

/** Writes facts as CloudEvents 1.0 in JSON structured mode. */
public final class FactWriter {

    private static final JsonFormat FORMAT = new JsonFormat();
    private static final String CONTENT = "application/json";

    private FactWriter() {}

    /**
     * One event on one line.
     *
     * @throws IllegalArgumentException when the source is no URI reference, which CloudEvents wants it to be
     */
    public static String write(Fact fact) {
        var data = JsonNodeFactory.instance.objectNode();
        var type = write(fact.happening(), data);
        if (fact.past()) {
            data.put("past", true);
        }
        var event = CloudEventBuilder.v1()
                .withId(fact.id().id())
                .withSource(URI.create(fact.id().source()))
                .withType(type)
                .withSubject(fact.subject())
                .withTime(fact.time().atOffset(ZoneOffset.UTC))
                .withData(CONTENT, data.toString().getBytes(StandardCharsets.UTF_8))
                .build();
        return new String(FORMAT.serialize(event), StandardCharsets.UTF_8);
    }

    /** @return the event's type */
    private static String write(Happening happening, ObjectNode data) {
        return switch (happening) {
            case Happening.OrderPlaced it -> {
                placed(it, data);
                yield "yoru.order.placed";
            }
            case Happening.OrderPaid it -> {
                said(data, "method", it.method());
                said(data, "reference", it.reference());
                yield about(data, it, "yoru.order.paid");
            }
            case Happening.OrderInvoiced it -> {
                data.put("number", it.number());
                if (it.payBy() != null) {
                    data.put("payBy", it.payBy().toString());
                }
                yield about(data, it, "yoru.order.invoiced");
            }
            case Happening.OrderFulfilled it -> about(data, it, "yoru.order.fulfilled");
            case Happening.OrderCancelled it -> about(data, it, "yoru.order.cancelled");
            case Happening.OrderRefunded it -> {
                it.line().ifPresent(line -> data.put("line", line));
                it.amount().ifPresent(amount -> data.put("amount", amount.toPlainString()));
                said(data, "reason", it.reason());
                yield about(data, it, "yoru.order.refunded");
            }
            case Happening.InstalmentPaid it -> {
                data.put("line", it.line()).put("number", it.number());
                yield about(data, it, "yoru.instalment.paid");
            }
            case Happening.InstalmentFailed it -> {
                data.put("line", it.line()).put("number", it.number());
                yield about(data, it, "yoru.instalment.failed");
            }
            case Happening.GiftClaimed it -> {
                data.put("line", it.line()).put("seat", it.seat());
                yield about(data, it, "yoru.gift.claimed");
            }
            case Happening.SubscriptionStarted it -> {
                data.put("product", it.product());
                it.option().ifPresent(option -> data.put("option", option));
                data.put("paidThrough", it.paidThrough().toString());
                if (it.trial()) {
                    data.put("trial", true);
                }
                yield about(data, it, "yoru.subscription.started");
            }
            case Happening.SubscriptionRenewed it -> {
                data.put("paidThrough", it.paidThrough().toString());
                yield about(data, it, "yoru.subscription.renewed");
            }
            case Happening.SubscriptionPaymentFailed it -> about(data, it, "yoru.subscription.payment-failed");
            case Happening.SubscriptionCancelled it -> {
                data.put("at", it.atPeriodEnd() ? "period-end" : "now");
                yield about(data, it, "yoru.subscription.cancelled");
            }
            case Happening.SubscriptionRefunded it -> about(data, it, "yoru.subscription.refunded");
            case Happening.LevelStarted it -> one(data, "level", it.level(), "yoru.level.started");
            case Happening.LevelEnded it -> one(data, "level", it.level(), "yoru.level.ended");
            case Happening.TagAdded it -> one(data, "tag", it.tag(), "yoru.tag.added");
            case Happening.TagRemoved it -> one(data, "tag", it.tag(), "yoru.tag.removed");
            case Happening.ListLeft it -> one(data, "list", it.list(), "yoru.list.left");
            case Happening.ListJoined it -> one(data, "list", it.list(), "yoru.list.joined");
            case Happening.AccountMade it -> one(data, "system", it.system(), "yoru.account.made");
            case Happening.CourseCompleted it -> one(data, "course", it.course(), "yoru.course.completed");
            case Happening.CourseChosen it -> one(data, "course", it.course(), "yoru.course.chosen");
            case Happening.CourseReleased it -> one(data, "course", it.course(), "yoru.course.released");
            case Happening.GrantGiven it -> {
                var to = data.putArray("to");
                it.to().forEach(destination -> Destinations.write(destination, to.addObject()));
                it.length().ifPresent(length -> data.put("length", length.toString()));
                it.until().ifPresent(until -> data.put("until", until.toString()));
                it.follows().ifPresent(followed -> write(followed, data.putObject("follows")));
                data.put("reason", it.reason());
                yield one(data, "grant", it.grant(), "yoru.grant.given");
            }
            case Happening.GrantEnded it -> one(data, "grant", it.grant(), "yoru.grant.ended");
            case Happening.FollowupWent it -> {
                went(it, data);
                yield "yoru.followup.went";
            }
            case Happening.FollowupStopped it -> {
                data.put("followup", it.followup());
                yield one(data, "occasion", it.occasion(), "yoru.followup.stopped");
            }
            case Happening.PersonMerged it -> one(data, "into", it.into(), "yoru.person.merged");
            case Happening.PersonParted it -> one(data, "from", it.from(), "yoru.person.parted");
            case Happening.PersonErased _ -> "yoru.person.erased";
            case Happening.Unknown it -> it.type();
        };
    }

    private static void went(Happening.FollowupWent went, ObjectNode data) {
        data.put("followup", went.followup()).put("occasion", went.occasion());
        if (went.passed()) {
            data.put("passed", true);
            return;
        }
        data.put("round", went.round());
        var did = data.putArray("did");
        went.did().forEach(one -> did.addArray().add(one.step()).add(one.does()));
        if (went.waits() != null && went.until() != null) {
            data.put("waits", went.waits()).put("until", went.until().toString());
        }
        if (went.as() != null) {
            FollowupWriter.write(went.as(), data.putObject("as"));
        }
    }

    private static void placed(Happening.OrderPlaced placed, ObjectNode data) {
        data.put("channel", Fields.word(placed.channel()));
        data.put("currency", placed.currency().getCurrencyCode());
        var lines = data.putArray("lines");
        for (OrderLine line : placed.lines()) {
            var node = lines.addObject().put("line", line.line()).put("product", line.product());
            line.option().ifPresent(option -> node.put("option", option));
            node.put("quantity", line.quantity()).put("amount", line.amount().toPlainString());
            line.giftTo().ifPresent(address -> node.put("giftTo", address));
            if (line.giftOn() != null) {
                node.put("giftOn", line.giftOn().toString());
            }
            if (line.listPrice() != null) {
                node.put("listPrice", line.listPrice().toPlainString());
            }
        }
        if (placed.payBy() != null) {
            data.put("payBy", placed.payBy().toString());
        }
        said(data, "reason", placed.reason());
        data.put("order", placed.order());
    }

    private static void said(ObjectNode data, String key, String words) {
        if (!words.isEmpty()) {
            data.put(key, words);
        }
    }

    private static String about(ObjectNode data, Happening.OfOrder happening, String type) {
        return one(data, "order", happening.order(), type);
    }

    private static String about(ObjectNode data, Happening.OfSubscription happening, String type) {
        return one(data, "subscription", happening.subscription(), type);
    }

    private static void write(Happening.Followed followed, ObjectNode into) {
        switch (followed) {
            case Happening.Followed.OfSubscription it -> into.put("subscription", it.subscription());
            case Happening.Followed.OfLine it -> into.put("order", it.order()).put("line", it.line());
        }
    }

    private static String one(ObjectNode data, String key, String value, String type) {
        data.put(key, value);
        return type;
    }
}
