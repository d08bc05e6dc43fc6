package yoru.core.access;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Order;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** Says in sentences why a window is what it is. All sentences about reasons are made here. */
public final class Explanation {

    /** One step of the chain from what happened to what follows. */
    public record Step(Kind kind, String title, String text) {}

    /** What a step is about. */
    public enum Kind {
        HAPPENED,
        MAPPING,
        WINDOW
    }

    private final Rulebook rulebook;
    private final int version;
    private final Words words;

    /** @param version the number under which the rulebook was published */
    public Explanation(Rulebook rulebook, int version) {
        this.rulebook = rulebook;
        this.version = version;
        this.words = new Words(rulebook.school().zone());
    }

    /** The chain for one window: what happened and which link, for each reason, then the window. */
    public List<Step> of(Access access) {
        var steps = new ArrayList<Step>();
        for (Entitlement entitlement : access.entitlements()) {
            var reason = entitlement.reason();
            steps.add(new Step(Kind.HAPPENED, began(reason), line(reason)));
            steps.add(new Step(Kind.MAPPING, "The mapping says", mapping(reason, entitlement.target())));
            reason.end()
                    .filter(end -> !(end instanceof Ending.Elapsed))
                    .ifPresent(end -> steps.add(ended(end, reason)));
        }
        steps.add(new Step(Kind.WINDOW, windowTitle(access), window(access.window())));
        return List.copyOf(steps);
    }

    /** In a few words, for a bar on a time line: "order 2041, 1 year". */
    public String label(Reason reason) {
        var order = "order " + reason.order().id();
        return switch (reason.ending()) {
            case null -> order + ", always";
            case Ending.Refunded _ -> order + ", refunded";
            case Ending.Cancelled _ -> order + ", cancelled";
            case Ending.Elapsed elapsed -> order + ", " + Words.period(elapsed.length());
        };
    }

    /** "12 Oct 2026 to 12 Oct 2027". */
    public String window(Window window) {
        return words.day(window.start())
                + window.end().map(end -> " to " + words.day(end)).orElse(", without an end");
    }

    /** "1 year from payment; a refund ends it". */
    public static String terms(Terms terms) {
        var length = switch (terms.length()) {
            case Length.Held _ -> "always";
            case Length.Lasting lasting -> "for " + Words.period(lasting.period());
        };
        return length
                + switch (terms.refund()) {
                    case END ->
                        terms.refundShare().compareTo(BigDecimal.ONE) == 0
                                ? "; a refund ends it"
                                : "; giving back a share of " + terms.refundShare() + " ends it";
                    case KEEP -> "; a refund leaves it open";
                };
    }

    private static String windowTitle(Access access) {
        return switch (access.state()) {
            case SCHEDULED -> "So it will open";
            case OPEN -> "So it is open";
            case ENDED -> "So it was open, and is closed now";
        };
    }

    private static String began(Reason reason) {
        var byHand = reason.order().details().channel() == Channel.HAND;
        return switch (reason.startedBy().happening()) {
            case Happening.OrderPaid _ -> "Bought and paid";
            case Happening.OrderFulfilled _ -> byHand ? "Ordered by hand and fulfilled" : "Bought and fulfilled";
            case Happening.OrderPlaced _ -> reason.order().total().signum() == 0 ? "Ordered at no charge" : "Ordered";
            case Happening.OrderCancelled _, Happening.OrderRefunded _ -> "Ordered";
        };
    }

    private String line(Reason reason) {
        Order order = reason.order();
        return "Order %s, line %s: %s. %s, %s."
                .formatted(
                        order.id(),
                        reason.line().line(),
                        title(reason.line().product()),
                        Words.money(reason.line().amount(), order.details().currency()),
                        words.day(reason.startedBy().time()));
    }

    private String mapping(Reason reason, Target target) {
        return "%s opens %s %s. Link %s, rulebook %d."
                .formatted(
                        title(reason.line().product()),
                        title(target),
                        terms(reason.link().terms()),
                        reason.link().id(),
                        version);
    }

    private Step ended(Ending ending, Reason reason) {
        var order = "Order %s, line %s, "
                .formatted(reason.order().id(), reason.line().line());
        return switch (ending) {
            case Ending.Refunded it -> new Step(Kind.HAPPENED, "Refunded", order + day(it.by()) + ".");
            case Ending.Cancelled it -> new Step(Kind.HAPPENED, "Cancelled", order + day(it.by()) + ".");
            case Ending.Elapsed it -> new Step(Kind.HAPPENED, "Time is up", order + words.day(it.at()) + ".");
        };
    }

    private String day(Fact fact) {
        return words.day(fact.time());
    }

    private String title(String product) {
        return rulebook.product(product).map(Product::title).orElse(product);
    }

    private String title(Target target) {
        return switch (target) {
            case Target.OfCourse it ->
                rulebook.course(it.course()).map(Course::title).orElse(it.course());
        };
    }
}
