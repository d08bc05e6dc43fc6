package yoru.server.setup;

import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import yoru.core.access.Words;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.letters.Letter;
import yoru.core.moves.Moves;
import yoru.core.orders.OrderAccount;
import yoru.core.policies.Policies;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.story.Chapter;
import yoru.core.story.Step;
import yoru.core.story.Story;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Matter;
import yoru.server.access.Stage;
import yoru.server.intake.Matchings;
import yoru.server.policies.SchoolPolicies;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.setup.TryOnce.Hop;
import yoru.server.setup.TryOnce.Outcome;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;

/** Follows a sale that nobody made, from the shop's report to the letter, without keeping or sending anything. */
@Component
class SampleSale {

    private static final String SOMEBODY = "try@yoru.example";
    private static final String ORDER = "TRY";
    private static final String SUBSCRIPTION = "TRY-1";

    private final Catalogue catalogue;
    private final Rulebooks rulebooks;
    private final Matchings matchings;
    private final Stage stage;
    private final SchoolPolicies policies;
    private final Clock clock;

    SampleSale(
            Catalogue catalogue,
            Rulebooks rulebooks,
            Matchings matchings,
            Stage stage,
            SchoolPolicies policies,
            Clock clock) {
        this.policies = policies;
        this.catalogue = catalogue;
        this.rulebooks = rulebooks;
        this.matchings = matchings;
        this.stage = stage;
        this.clock = clock;
    }

    /**
     * What somebody invented buys.
     *
     * @param product none = the first that opens something
     * @param option a way in which it is sold; none = the product alone
     * @param guest whether without an account
     * @param refund whether they have all of it paid back afterwards
     */
    record Wanted(
            @Nullable @Size(max = 200) String product,
            @Nullable @Size(max = 200) String option,
            @Nullable @Min(1) @Max(999) Integer quantity,
            boolean guest,
            boolean refund) {

        static final Wanted ANYTHING = new Wanted(null, null, null, false, false);

        int many() {
            return quantity == null ? 1 : quantity;
        }
    }

    List<Hop> follow(Connection shop, Wanted wanted) {
        var hops = new ArrayList<Hop>();
        matchings.newest(shop.id()).ifPresent(report -> hops.add(hop("Its last report", report.said(), report.well())));
        var sold = catalogue.products().stream()
                .filter(product -> product.connection().equals(shop.id()))
                .filter(product -> wanted.product == null || product.id().equals(wanted.product))
                .toList();
        for (var product : sold) {
            var story = Story.begin(stage.now(), clock.instant());
            var chapter = story.tell(sale(product, wanted));
            if (wanted.product != null || !opened(chapter).isEmpty()) {
                hops.add(hop("Somebody invented buys", inWords(product, wanted), true));
                hops.addAll(
                        isHeld(wanted)
                                ? List.of(hop(
                                        "It is held",
                                        "a guest's order opens nothing until somebody lets them in",
                                        true))
                                : follow(story, chapter, wanted));
                return hops;
            }
        }
        var why = sold.isEmpty()
                ? wanted.product == null ? "it lists no product" : "it does not list " + wanted.product
                : "none of its %d products opens anything yet: map one first".formatted(sold.size());
        hops.add(hop("Somebody invented buys", why, false));
        return hops;
    }

    private List<Hop> follow(Story story, Chapter chapter, Wanted wanted) {
        var hops = new ArrayList<Hop>();
        var opened = opened(chapter);
        if (opened.isEmpty()) {
            hops.add(hop("It opens", "nothing", false));
        } else {
            hops.add(hop("It opens", opened(opened), true));
            hops.add(hop("Who would be told", told(opened, chapter), true));
            hops.add(hop("The letter would say", letter(chapter), true));
        }
        int seats = chapter.after().person(SOMEBODY).orders().stream()
                .mapToInt(order -> new OrderAccount(order, chapter.setting().engine()).givable())
                .sum();
        if (seats > 0) {
            hops.add(hop("To give to others", seats + (seats == 1 ? " place" : " places"), true));
        }
        if (wanted.refund) {
            hops.add(hop("It is paid back", leftAfter(story.tell(refund(chapter))), true));
        }
        return hops;
    }

    private boolean isHeld(Wanted wanted) {
        return wanted.guest && policies.inForce().guests() == Policies.Guests.HOLD;
    }

    private static String inWords(Catalogue.SoldProduct product, Wanted wanted) {
        var option = product.options().stream()
                .filter(one -> one.id().equals(wanted.option))
                .map(one -> ", " + one.title())
                .findFirst()
                .orElse("");
        return (wanted.many() == 1 ? "" : wanted.many() + " × ")
                + product.title()
                + option
                + (wanted.guest ? ", as a guest" : "")
                + ", and pays";
    }

    private static List<Moves.Opened> opened(Chapter chapter) {
        var opened = chapter.turn(SOMEBODY).map(turn -> turn.moves().opened()).orElse(List.of());
        var targets = opened.stream().map(Moves.Opened::target).collect(Collectors.toSet());
        var rulebook = chapter.setting().engine().index().rulebook();
        return opened.stream()
                .filter(one ->
                        !(one.target() instanceof Target.OfSection it && isWhole(it.course(), targets, rulebook)))
                .toList();
    }

    /** Whether a course is open with all its sections: they need not be named then. */
    private static boolean isWhole(String course, Set<Target> opened, Rulebook rulebook) {
        return rulebook.course(course)
                .filter(known -> known.sections().stream()
                        .allMatch(section -> opened.contains(new Target.OfSection(course, section.id()))))
                .isPresent();
    }

    private Step refund(Chapter bought) {
        var happenings = new ArrayList<Happening>();
        happenings.add(new Happening.OrderRefunded(ORDER, null, null));
        if (!bought.after().person(SOMEBODY).subscriptions().isEmpty()) {
            happenings.add(new Happening.SubscriptionRefunded(SUBSCRIPTION));
        }
        return Step.of(bought.at(), SOMEBODY, happenings.toArray(Happening[]::new));
    }

    private static String leftAfter(Chapter refunded) {
        var left = refunded.with(SOMEBODY).stream()
                .filter(access -> access.state().isOpen())
                .map(access -> refunded.setting().engine().index().rulebook().title(access.target()))
                .distinct()
                .toList();
        return left.isEmpty() ? "everything closes" : "still open: " + String.join(", ", left);
    }

    /** An order that is placed, paid and fulfilled at once, with the subscription that it begins. */
    private Step sale(Catalogue.SoldProduct product, Wanted wanted) {
        var now = clock.instant();
        var price = Optional.ofNullable(wanted.option).flatMap(product::priceOf).orElse(product.price());
        var amount = price.multiply(BigDecimal.valueOf(wanted.many()));
        var line = new OrderLine("1", product.id(), wanted.option, wanted.many(), amount, null);
        var happenings = new ArrayList<Happening>();
        happenings.add(new Happening.OrderPlaced(
                ORDER, Channel.SHOP, Currency.getInstance(product.currency()), List.of(line)));
        happenings.add(new Happening.OrderPaid(ORDER));
        happenings.add(new Happening.OrderFulfilled(ORDER));
        var rulebook = rulebooks.current().rulebook();
        if (rulebook.product(product.id()).map(Product::billing).orElse(null) instanceof Billing.Recurring plan) {
            var paidThrough = rulebooks.current().engine().calendar().plus(now, plan.every());
            happenings.add(
                    new Happening.SubscriptionStarted(SUBSCRIPTION, product.id(), wanted.option, paidThrough, false));
        }
        return Step.of(now, SOMEBODY, happenings.toArray(Happening[]::new));
    }

    private String opened(List<Moves.Opened> opened) {
        var rulebook = rulebooks.current().rulebook();
        var words = new Words(rulebook.school().zone());
        return opened.stream()
                .map(one -> rulebook.title(one.target()) + " " + one.howLong().inWords(words))
                .collect(Collectors.joining("; "));
    }

    private String told(List<Moves.Opened> opened, Chapter chapter) {
        var rulebook = rulebooks.current().rulebook();
        return opened.stream()
                .map(one -> rulebook.title(one.target()) + ": "
                        + Optional.of(systems(one.target(), chapter))
                                .filter(names -> !names.isEmpty())
                                .orElse("no system"))
                .collect(Collectors.joining("; "));
    }

    private static String systems(Target target, Chapter chapter) {
        var matter = new Matter.Access(target);
        return chapter.told(SOMEBODY).stream()
                .filter(wish -> wish.matter().equals(matter))
                .flatMap(wish -> chapter.setting().landscape().systems().stream()
                        .filter(system -> system.id().equals(wish.system())))
                .map(ConnectedSystem::title)
                .collect(Collectors.joining(", "));
    }

    private static String letter(Chapter chapter) {
        return chapter.setting().landscape().carriesLetters()
                ? chapter.letter(SOMEBODY, Optional.empty())
                        .map(Letter::subject)
                        .orElse("nothing, for nothing of it is worth a letter")
                : "nothing, for no system carries letters";
    }

    private static Hop hop(String title, String text, boolean well) {
        return new Hop(title, text, well ? Outcome.WELL : Outcome.FAILED);
    }
}
