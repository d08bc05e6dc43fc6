package yoru.core.access;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Holding.Bought;
import yoru.core.access.Holding.Finished;
import yoru.core.access.Holding.Held;
import yoru.core.access.Holding.Subscribed;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

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
        access.entitlements().forEach(entitlement -> add(entitlement, steps));
        steps.add(new Step(Kind.WINDOW, windowTitle(access), window(access)));
        return List.copyOf(steps);
    }

    /** The chain for one reason, without a window. */
    public List<Step> of(Entitlement entitlement) {
        var steps = new ArrayList<Step>();
        add(entitlement, steps);
        return List.copyOf(steps);
    }

    /** Why something is closed, in one sentence. */
    public String obstacle(WhyClosed.Obstacle obstacle) {
        return switch (obstacle) {
            case WhyClosed.Obstacle.Suspended it ->
                "A payment is missing since %s (%s).".formatted(words.day(it.since()), label(it.entitlement()));
            case WhyClosed.Obstacle.NotBegun it ->
                "It opens on %s (%s)."
                        .formatted(words.day(it.entitlement().stretch().span().start()), label(it.entitlement()));
            case WhyClosed.Obstacle.NotOpened it ->
                line(it.order(), it.line()) + " is not " + whatOpens(it.product()) + " yet.";
            case WhyClosed.Obstacle.NeverBegan it -> line(it.order(), it.line()) + " was taken back before it opened.";
            case WhyClosed.Obstacle.ForSomebodyElse it -> line(it.order(), it.line()) + " is for somebody else.";
            case WhyClosed.Obstacle.NoPlace _ -> "It was chosen, and the allowance has no place left for it.";
            case WhyClosed.Obstacle.Ended it ->
                "It ended on %s (%s)."
                        .formatted(
                                it.entitlement()
                                        .stretch()
                                        .span()
                                        .end()
                                        .map(words::day)
                                        .orElse(""),
                                label(it.entitlement()));
            case WhyClosed.Obstacle.Nothing it ->
                it.links().isEmpty()
                        ? "Nothing opens it, whatever is held."
                        : "Nothing that is held opens it; %s would."
                                .formatted(it.links().stream()
                                        .map(link -> rulebook.title(link.from()))
                                        .distinct()
                                        .collect(Collectors.joining(" or ")));
        };
    }

    /** Why a line of an order opens nothing, in one sentence. */
    public String unopened(WhyUnopened.Cause cause) {
        return switch (cause) {
            case WhyUnopened.Cause.Unknown _ -> "The mapping does not know this product.";
            case WhyUnopened.Cause.ThingToPost it ->
                it.waits() ? "A thing to post. It stays to be fulfilled." : "A thing to post: it opens nothing.";
            case WhyUnopened.Cause.NotMapped _ -> "Nothing is mapped to it yet.";
            case WhyUnopened.Cause.BySubscription it ->
                it.begins()
                        ? "Its subscription begins when it is paid: enter it then."
                        : "It is paid again and again: its subscription opens what it opens.";
            case WhyUnopened.Cause.ForSomebodyElse _ -> "It opens for whoever takes the gift up.";
            case WhyUnopened.Cause.NeverBegan _ -> "It was taken back before it opened.";
            case WhyUnopened.Cause.NotOpened it -> "It opens when it is %s.".formatted(whatOpens(it.product()));
        };
    }

    private String line(Order order, OrderLine line) {
        return "Order %s, line %s: %s".formatted(order.id(), line.line(), rulebook.titleOfProduct(line.product()));
    }

    /** What has to happen to an order until a product of it opens: "paid". */
    public String whatOpens(Product product) {
        return switch (rulebook.opensOn(product)) {
            case PAID -> "paid";
            case FULFILLED -> "fulfilled";
            case PLACED -> "placed";
        };
    }

    /** In a few words, for a bar on a time line: "order 2041, 1 year". */
    public String label(Entitlement entitlement) {
        var end = entitlement.ending();
        return from(entitlement.reason()) + ", " + (end == null ? "always" : shortly(end));
    }

    /** "12 Oct 2026 to 12 Oct 2027". */
    public String window(Window window) {
        return words.day(window.start())
                + window.end().map(end -> " to " + words.day(end)).orElse(", without an end");
    }

    private void add(Entitlement entitlement, List<Step> steps) {
        var reason = entitlement.reason();
        switch (reason) {
            case Reason.Linked it -> {
                addHolding(it.holding(), steps);
                steps.add(new Step(Kind.MAPPING, "The mapping says", mapping(it, entitlement.target())));
            }
            case Reason.ByHand it ->
                steps.add(happened("Given by hand", it.grant().details().reason() + ", " + day(it.startedBy()) + "."));
            case Reason.FromOutside it -> steps.add(outside(entitlement.target(), it.startedBy()));
            case Reason.Chosen it ->
                steps.add(happened(
                        "Chosen",
                        "A place of %s's allowance, chosen %s."
                                .formatted(it.level().title(), day(it.startedBy()))));
        }
        var before = before(reason);
        holes(entitlement.stretch(), before, steps);
        var end = entitlement.ending();
        boolean told = before != null && Objects.equals(before.ending(), end);
        if (end != null && !told && !(end.cause() instanceof Ending.Cause.Elapsed)) {
            steps.add(happened(ended(end), in(reason) + words.day(end.at()) + "."));
        }
    }

    /** What gave the level or tag that this is given for; its holes and its end are passed on and were told there. */
    private static @Nullable Entitlement before(Reason reason) {
        return reason instanceof Reason.Linked it && it.holding() instanceof Held held ? held.through() : null;
    }

    private void holes(Stretch stretch, @Nullable Entitlement before, List<Step> steps) {
        if (before == null) {
            for (Window hole : stretch.suspended().asList()) {
                boolean unpaid = Objects.equals(hole.endOrNone(), stretch.span().endOrNone());
                steps.add(happened(
                        "A payment is missing",
                        unpaid
                                ? "Closed from %s until it comes.".formatted(words.day(hole.start()))
                                : "Closed " + window(hole) + "."));
            }
        }
        var passedOn = before == null ? Windows.NONE : before.stretch().takenOut();
        for (Window hole : stretch.takenOut().minus(passedOn).asList()) {
            steps.add(happened("A higher level covers it", window(hole) + "."));
        }
    }

    private void addHolding(Holding holding, List<Step> steps) {
        switch (holding) {
            case Bought it -> steps.add(happened(began(it), line(it)));
            case Subscribed it ->
                steps.add(happened(
                        "Subscribed",
                        "Subscription %s: %s, %s."
                                .formatted(it.subscription().id(), it.product().title(), day(it.startedBy()))));
            case Finished it ->
                steps.add(happened(
                        "Finished",
                        rulebook.title(new Target.OfCourse(it.course())) + ", " + day(it.startedBy()) + "."));
            case Held it -> {
                if (it.through() == null) {
                    steps.add(outside(it.what(), it.startedBy()));
                } else {
                    add(it.through(), steps);
                }
            }
        }
    }

    private Step outside(Target what, Fact fact) {
        return happened(
                what instanceof Target.OfLevel ? "Has the level" : "Has the tag",
                "%s, told by %s, %s.".formatted(rulebook.title(what), fact.id().source(), day(fact)));
    }

    private static Step happened(String title, String text) {
        return new Step(Kind.HAPPENED, title, text);
    }

    private String windowTitle(Access access) {
        return switch (access.state()) {
            case SCHEDULED -> "So it will open";
            case OPEN -> "So it is open";
            case GRACE -> "So it is open, though a payment is due";
            case SUSPENDED -> "So it is closed until the payment comes";
            case ENDED -> "So it was open, and is closed now";
        };
    }

    private String window(Access access) {
        if (access.renews() && access.state() == State.SUSPENDED) {
            return window(access.window()) + "; it goes on with the payment";
        }
        return access.renews()
                ? "From %s as long as it is paid for; without a payment until %s."
                        .formatted(
                                words.day(access.window().start()),
                                access.window().end().map(words::day).orElse(""))
                : window(access.window());
    }

    private static String began(Bought holding) {
        if (holding.claim().isPresent()) {
            return "Seat taken up";
        }
        var order = holding.order();
        boolean byHand = order.details().channel() == Channel.HAND;
        if (holding.startedBy().happening() instanceof Happening.OrderPaid) {
            return "Bought and paid";
        }
        if (holding.startedBy().happening() instanceof Happening.OrderFulfilled) {
            return byHand ? "Ordered by hand and fulfilled" : "Bought and fulfilled";
        }
        return order.total().signum() == 0 ? "Ordered at no charge" : "Ordered";
    }

    private String line(Bought holding) {
        var order = holding.order();
        var line = holding.line();
        return "Order %s, line %s: %s. %s, %s."
                .formatted(
                        order.id(),
                        line.line(),
                        rulebook.titleOfProduct(line.product()),
                        Words.money(line.amount(), order.details().currency()),
                        day(holding.startedBy()));
    }

    private String mapping(Reason.Linked reason, Target target) {
        var link = reason.link();
        var from = switch (reason.holding()) {
            case Bought it -> rulebook.titleOfProduct(it.line().product());
            case Subscribed it -> it.product().title();
            case Held it ->
                title(it) + (isIncluded(it, link) ? " includes " + rulebook.title(link.from()) + ", which" : "");
            case Finished _ -> rulebook.title(link.from());
        };
        return "%s opens %s %s. Link %s, rulebook %d."
                .formatted(capital(from), rulebook.title(target), TermsInWords.of(link, rulebook), link.id(), version);
    }

    private static String capital(String sentence) {
        return sentence.isEmpty() ? sentence : Character.toUpperCase(sentence.charAt(0)) + sentence.substring(1);
    }

    /** "tag member", "Keeper". */
    private String title(Held held) {
        return (held.what() instanceof Target.OfTag ? "tag " : "") + rulebook.title(held.what());
    }

    /** Whether the link is that of a lower level, which the one that is held stands for too. */
    private static boolean isIncluded(Held held, Link link) {
        return held.what() instanceof Target.OfLevel level && !link.from().equals(new Source.OfLevel(level.level()));
    }

    private static String ended(Ending ending) {
        return switch (ending.cause()) {
            case Ending.Cause.Refunded _ -> "Refunded";
            case Ending.Cause.Cancelled _ -> "Cancelled";
            case Ending.Cause.EndedBy _ -> "Taken away";
            case Ending.Cause.Elapsed _ -> "Time is up";
            case Ending.Cause.Capped _ -> "The link's last day";
            case Ending.Cause.GivenUntil _ -> "Given until";
            case Ending.Cause.TakenBack _ -> "The link was taken back";
            case Ending.Cause.Unpaid _ -> "Runs as long as it is paid for; without a payment until";
            case Ending.Cause.LastCycle _ -> "The last period paid for";
            case Ending.Cause.PlaceLost _ -> "Its place is lost";
            case Ending.Cause.WithLevel it ->
                it.level().title()
                        + (it.renews() ? " runs as long as it is paid for; without a payment until" : " ends");
        };
    }

    private String shortly(Ending ending) {
        return switch (ending.cause()) {
            case Ending.Cause.Refunded _ -> "refunded";
            case Ending.Cause.Cancelled _ -> "cancelled";
            case Ending.Cause.EndedBy _ -> "taken away";
            case Ending.Cause.Elapsed it -> Words.period(it.length());
            case Ending.Cause.Capped _,
                    Ending.Cause.GivenUntil _,
                    Ending.Cause.TakenBack _,
                    Ending.Cause.Unpaid _,
                    Ending.Cause.LastCycle _,
                    Ending.Cause.WithLevel _,
                    Ending.Cause.PlaceLost _ ->
                HowLong.until(ending.at(), ending.renews()).inWords(words);
        };
    }

    /** "order 2041", "tag member". */
    private String from(Reason reason) {
        return switch (reason) {
            case Reason.Linked it ->
                switch (it.holding()) {
                    case Bought bought -> "order " + bought.order().id();
                    case Subscribed subscribed ->
                        "subscription " + subscribed.subscription().id();
                    case Held held -> title(held);
                    case Finished _ -> rulebook.title(it.link().from());
                };
            case Reason.ByHand _ -> "given by hand";
            case Reason.FromOutside it -> "told by " + it.startedBy().id().source();
            case Reason.Chosen it -> it.level().title() + ", chosen";
        };
    }

    /** "Order 2041, line 1, ", where it helps to say it again. */
    private static String in(Reason reason) {
        return reason instanceof Reason.Linked it && it.holding() instanceof Bought bought
                ? "Order %s, line %s, "
                        .formatted(bought.order().id(), bought.line().line())
                : "";
    }

    private String day(Fact fact) {
        return words.day(fact.time());
    }
}
