package yoru.formats;

import java.util.ArrayList;
import java.util.Currency;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Happening.AccountMade;
import yoru.core.ledger.Happening.CourseChosen;
import yoru.core.ledger.Happening.CourseCompleted;
import yoru.core.ledger.Happening.CourseReleased;
import yoru.core.ledger.Happening.Followed;
import yoru.core.ledger.Happening.FollowupStopped;
import yoru.core.ledger.Happening.FollowupWent;
import yoru.core.ledger.Happening.GiftClaimed;
import yoru.core.ledger.Happening.GrantEnded;
import yoru.core.ledger.Happening.GrantGiven;
import yoru.core.ledger.Happening.InstalmentFailed;
import yoru.core.ledger.Happening.InstalmentPaid;
import yoru.core.ledger.Happening.LevelEnded;
import yoru.core.ledger.Happening.LevelStarted;
import yoru.core.ledger.Happening.ListJoined;
import yoru.core.ledger.Happening.ListLeft;
import yoru.core.ledger.Happening.OrderCancelled;
import yoru.core.ledger.Happening.OrderFulfilled;
import yoru.core.ledger.Happening.OrderInvoiced;
import yoru.core.ledger.Happening.OrderPaid;
import yoru.core.ledger.Happening.OrderPlaced;
import yoru.core.ledger.Happening.OrderRefunded;
import yoru.core.ledger.Happening.PersonErased;
import yoru.core.ledger.Happening.PersonMerged;
import yoru.core.ledger.Happening.PersonParted;
import yoru.core.ledger.Happening.SubscriptionCancelled;
import yoru.core.ledger.Happening.SubscriptionPaymentFailed;
import yoru.core.ledger.Happening.SubscriptionRefunded;
import yoru.core.ledger.Happening.SubscriptionRenewed;
import yoru.core.ledger.Happening.SubscriptionStarted;
import yoru.core.ledger.Happening.TagAdded;
import yoru.core.ledger.Happening.TagRemoved;
import yoru.core.ledger.Happening.Unknown;
import yoru.core.ledger.OrderLine;

/**
 * Reads facts from CloudEvents 1.0 in JSON structured mode (CloudEvents specification 1.0.2 and its JSON event format).
 *
 * <p>Keys that are not known in {@code data} are let through and kept with the stored event: a shop may say more than
 * Yoru uses.
 */
public final class FactReader {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** @throws UnreadableException when the bytes are no JSON */
    public static JsonNode parse(byte[] body) {
        try {
            JsonNode node = JSON.readTree(body);
            if (node.isMissingNode()) {
                throw new UnreadableException(List.of(new Fault("", "the body is empty")));
            }
            return node;
        } catch (JacksonException e) {
            throw new UnreadableException(List.of(new Fault("", "the body is not JSON: " + e.getOriginalMessage())));
        }
    }

    /** @throws UnreadableException naming every field at fault */
    public static Fact read(byte[] body) {
        return read(parse(body));
    }

    /**
     * Reads what comes from outside and is not kept yet: what {@link #read(JsonNode)} takes, but for numbers that nobody
     * can have meant.
     *
     * @throws UnreadableException naming every field at fault
     */
    public static Fact readNew(JsonNode event) {
        var fact = read(event);
        var faults = fact.happening() instanceof OrderPlaced placed
                ? IntStream.range(0, placed.lines().size())
                        .filter(at -> placed.lines().get(at).quantity() > OrderLine.MOST_OF_ONE)
                        .mapToObj(at -> new Fault(
                                "data.lines[" + at + "].quantity",
                                "must be %d at most".formatted(OrderLine.MOST_OF_ONE)))
                        .toList()
                : List.<Fault>of();
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        return fact;
    }

    /** @throws UnreadableException naming every field at fault */
    public static Fact read(JsonNode event) {
        var faults = new ArrayList<Fault>();
        var envelope = new Fields(event, "", faults);
        if (!faults.isEmpty()) {
            throw new UnreadableException(List.of(new Fault("", "the body is not a CloudEvent: it must be an object")));
        }
        var version = envelope.text("specversion");
        if (!version.isEmpty() && !version.equals("1.0")) {
            envelope.fault("specversion", "must be \"1.0\"");
        }
        var id = new FactId(envelope.text("source"), envelope.text("id"));
        var type = envelope.text("type");
        var subject = envelope.text("subject");
        var time = envelope.instant("time");
        var happening = happening(type, envelope);
        if (!faults.isEmpty() || happening == null) {
            throw new UnreadableException(faults);
        }
        var past = event.path("data").path("past");
        return new Fact(id, subject, time, happening, past.isBoolean() && past.booleanValue());
    }

    private static @Nullable Happening happening(String type, Fields envelope) {
        if (type.isEmpty()) {
            return null;
        }
        return switch (type) {
            case "yoru.order.placed" -> placed(data(envelope));
            case "yoru.order.paid" -> {
                var data = data(envelope);
                yield new OrderPaid(data.text("order"), data.said("method"), data.said("reference"));
            }
            case "yoru.order.invoiced" -> {
                var data = data(envelope);
                yield new OrderInvoiced(data.text("order"), data.text("number"), data.saidDate("payBy"));
            }
            case "yoru.order.fulfilled" -> new OrderFulfilled(data(envelope).text("order"));
            case "yoru.order.cancelled" -> new OrderCancelled(data(envelope).text("order"));
            case "yoru.order.refunded" -> refunded(data(envelope));
            case "yoru.instalment.paid" -> {
                var data = data(envelope);
                yield new InstalmentPaid(data.text("order"), data.text("line"), data.count("number"));
            }
            case "yoru.instalment.failed" -> {
                var data = data(envelope);
                yield new InstalmentFailed(data.text("order"), data.text("line"), data.count("number"));
            }
            case "yoru.gift.claimed" -> {
                var data = data(envelope);
                yield new GiftClaimed(data.text("order"), data.text("line"), data.count("seat"));
            }
            case "yoru.subscription.started" -> {
                var data = data(envelope);
                yield new SubscriptionStarted(
                        data.text("subscription"),
                        data.text("product"),
                        data.optionalText("option"),
                        data.instant("paidThrough"),
                        data.flag("trial"));
            }
            case "yoru.subscription.renewed" -> {
                var data = data(envelope);
                yield new SubscriptionRenewed(data.text("subscription"), data.instant("paidThrough"));
            }
            case "yoru.subscription.payment-failed" ->
                new SubscriptionPaymentFailed(data(envelope).text("subscription"));
            case "yoru.subscription.cancelled" -> cancelled(data(envelope));
            case "yoru.subscription.refunded" ->
                new SubscriptionRefunded(data(envelope).text("subscription"));
            case "yoru.level.started" -> new LevelStarted(data(envelope).text("level"));
            case "yoru.level.ended" -> new LevelEnded(data(envelope).text("level"));
            case "yoru.tag.added" -> new TagAdded(data(envelope).text("tag"));
            case "yoru.tag.removed" -> new TagRemoved(data(envelope).text("tag"));
            case "yoru.list.left" -> new ListLeft(data(envelope).text("list"));
            case "yoru.list.joined" -> new ListJoined(data(envelope).text("list"));
            case "yoru.account.made" -> new AccountMade(data(envelope).text("system"));
            case "yoru.course.completed" -> new CourseCompleted(data(envelope).text("course"));
            case "yoru.course.chosen" -> new CourseChosen(data(envelope).text("course"));
            case "yoru.course.released" -> new CourseReleased(data(envelope).text("course"));
            case "yoru.grant.given" -> given(data(envelope));
            case "yoru.grant.ended" -> new GrantEnded(data(envelope).text("grant"));
            case "yoru.followup.went" -> went(data(envelope));
            case "yoru.followup.stopped" -> {
                var data = data(envelope);
                yield new FollowupStopped(data.text("followup"), data.text("occasion"));
            }
            case "yoru.person.merged" -> new PersonMerged(data(envelope).text("into"));
            case "yoru.person.parted" -> new PersonParted(data(envelope).text("from"));
            case "yoru.person.erased" -> new PersonErased();
            default -> new Unknown(type);
        };
    }

    private static FollowupWent went(Fields data) {
        return new FollowupWent(
                data.text("followup"),
                data.text("occasion"),
                data.wholeNumber("round", 1),
                data.pairs("did").stream()
                        .map(pair -> new Happening.Did(pair.getFirst(), pair.getLast()))
                        .toList(),
                data.optionalText("waits"),
                data.optionalInstant("until"),
                data.has("as") ? data.part("as", "followup", FollowupReader::read) : null,
                data.flag("passed"));
    }

    private static Fields data(Fields envelope) {
        return envelope.object("data");
    }

    private static SubscriptionCancelled cancelled(Fields data) {
        return new SubscriptionCancelled(
                data.text("subscription"), data.oneOf("at", CancelledAt.class, null) == CancelledAt.PERIOD_END);
    }

    /** When a cancellation ends a subscription. */
    private enum CancelledAt {
        NOW,
        PERIOD_END
    }

    private static GrantGiven given(Fields data) {
        var to = data.objects("to", Destinations::read);
        if (to.isEmpty()) {
            data.fault("to", "must be a list of at least one target");
        }
        return new GrantGiven(
                data.text("grant"),
                to,
                data.optionalPeriod("length"),
                data.optionalInstant("until"),
                data.has("follows") ? followed(data.object("follows")) : null,
                data.text("reason"));
    }

    private static Followed followed(Fields data) {
        return data.has("subscription")
                ? new Followed.OfSubscription(data.text("subscription"))
                : new Followed.OfLine(data.text("order"), data.text("line"));
    }

    private static OrderRefunded refunded(Fields data) {
        return new OrderRefunded(
                data.text("order"), data.optionalText("line"), data.optionalAmount("amount"), data.said("reason"));
    }

    private static OrderPlaced placed(Fields data) {
        var order = data.text("order");
        var channel = data.oneOf("channel", Channel.class, null);
        var currency = currency(data, "currency");
        var lines = data.objects("lines", FactReader::line);
        if (lines.isEmpty()) {
            data.fault("lines", "must have at least one line");
        }
        Set<String> ids = new HashSet<>();
        for (int at = 0; at < lines.size(); at++) {
            if (!ids.add(lines.get(at).line())) {
                data.fault("lines[" + at + "].line", "stands twice in the order");
            }
        }
        return new OrderPlaced(order, channel, currency, lines, data.saidDate("payBy"), data.said("reason"));
    }

    private static OrderLine line(Fields line) {
        return new OrderLine(
                line.text("line"),
                line.text("product"),
                line.optionalText("option"),
                line.wholeNumber("quantity", 1),
                line.amount("amount"),
                line.optionalText("giftTo"),
                line.saidDate("giftOn"),
                line.saidAmount("listPrice"));
    }

    static Currency currency(Fields fields, String key) {
        var code = fields.text(key);
        try {
            if (!code.isEmpty()) {
                return Currency.getInstance(code);
            }
        } catch (IllegalArgumentException e) {
            fields.fault(key, "must be an ISO 4217 code such as EUR");
        }
        return Currency.getInstance("XXX");
    }

    private FactReader() {}
}
