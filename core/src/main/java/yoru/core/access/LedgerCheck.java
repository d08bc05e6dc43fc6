package yoru.core.access;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening.AccountMade;
import yoru.core.ledger.Happening.CourseChosen;
import yoru.core.ledger.Happening.CourseCompleted;
import yoru.core.ledger.Happening.CourseReleased;
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
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Warning;
import yoru.core.ledger.Warning.NoSuchInstalment;
import yoru.core.ledger.Warning.NoSuchLine;
import yoru.core.ledger.Warning.NoSuchSeat;
import yoru.core.ledger.Warning.NotInRulebook;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;

/** Finds the facts of a ledger that name what its orders or the rulebook do not have. */
final class LedgerCheck {

    private final RulebookIndex index;
    private final Map<String, Map<String, OrderLine>> linesByOrder = new HashMap<>();
    private final List<Warning> warnings = new ArrayList<>();

    private LedgerCheck(RulebookIndex index) {
        this.index = index;
    }

    static List<Warning> of(Ledger ledger, RulebookIndex index) {
        var check = new LedgerCheck(index);
        for (Fact fact : ledger.facts()) {
            if (fact.happening() instanceof OrderPlaced it) {
                check.linesByOrder.computeIfAbsent(it.order(), order -> lines(it));
            }
        }
        ledger.facts().forEach(check::look);
        return check.warnings;
    }

    private static Map<String, OrderLine> lines(OrderPlaced placed) {
        Map<String, OrderLine> lines = new HashMap<>();
        placed.lines().forEach(line -> lines.put(line.line(), line));
        return lines;
    }

    private void look(Fact fact) {
        var id = fact.id();
        switch (fact.happening()) {
            case OrderPlaced it -> it.lines().forEach(line -> product(id, line.product(), line.option()));
            case OrderRefunded it -> it.line().ifPresent(line -> line(id, it.order(), line));
            case InstalmentPaid it -> instalment(id, it.order(), it.line(), it.number());
            case InstalmentFailed it -> instalment(id, it.order(), it.line(), it.number());
            case GiftClaimed it -> seat(id, it);
            case SubscriptionStarted it -> product(id, it.product(), it.option());
            case LevelStarted it -> known(id, index.level(it.level()).isPresent(), "level", it.level());
            case LevelEnded it -> known(id, index.level(it.level()).isPresent(), "level", it.level());
            case TagAdded it -> known(id, index.knowsTag(it.tag()), "tag", it.tag());
            case TagRemoved it -> known(id, index.knowsTag(it.tag()), "tag", it.tag());
            case ListLeft it -> known(id, index.knows(list(it.list())), "list", it.list());
            case ListJoined it -> known(id, index.knows(list(it.list())), "list", it.list());
            case CourseCompleted it -> course(id, it.course());
            case CourseChosen it -> course(id, it.course());
            case CourseReleased it -> course(id, it.course());
            case GrantGiven it -> it.to().forEach(to -> known(id, index.knows(to), "destination", words(to)));
            case OrderPaid _,
                    OrderInvoiced _,
                    OrderFulfilled _,
                    OrderCancelled _,
                    SubscriptionRenewed _,
                    SubscriptionPaymentFailed _,
                    SubscriptionCancelled _,
                    SubscriptionRefunded _,
                    GrantEnded _,
                    AccountMade _,
                    FollowupWent _,
                    FollowupStopped _,
                    PersonMerged _,
                    PersonParted _,
                    PersonErased _,
                    Unknown _ -> {}
        }
    }

    private static Destination list(String id) {
        return new Destination.Exactly(new Target.OfList(id));
    }

    private void known(FactId fact, boolean known, String kind, String name) {
        if (!known) {
            warnings.add(new NotInRulebook(fact, kind, name));
        }
    }

    private void course(FactId fact, String course) {
        known(fact, index.course(course).isPresent(), "course", course);
    }

    private void product(FactId fact, String product, Optional<String> option) {
        var known = index.product(product);
        known(fact, known.isPresent(), "product", product);
        if (known.isPresent() && option.isPresent()) {
            known(fact, known.get().hasOption(option.get()), "option of product " + product, option.get());
        }
    }

    private @Nullable OrderLine line(FactId fact, String order, String line) {
        var lines = linesByOrder.get(order);
        if (lines == null) {
            return null;
        }
        var known = lines.get(line);
        if (known == null) {
            warnings.add(new NoSuchLine(fact, order, line));
        }
        return known;
    }

    private void instalment(FactId fact, String order, String line, int number) {
        var known = line(fact, order, line);
        if (known != null
                && index.product(known.product())
                        .filter(product -> !hasInstalment(product, number))
                        .isPresent()) {
            warnings.add(new NoSuchInstalment(fact, order, line, number));
        }
    }

    private static boolean hasInstalment(Product product, int number) {
        return product.billing() instanceof Billing.Instalments plan && number >= 2 && number <= plan.count();
    }

    private void seat(FactId fact, GiftClaimed claim) {
        var known = line(fact, claim.order(), claim.line());
        if (known != null
                && index.product(known.product())
                        .filter(product -> !Purchase.canBeClaimed(known, product, claim.seat()))
                        .isPresent()) {
            warnings.add(new NoSuchSeat(fact, claim.order(), claim.line(), claim.seat()));
        }
    }

    private static String words(Destination destination) {
        return switch (destination) {
            case Destination.OfCourse it ->
                "course/" + it.course()
                        + it.tier().map(tier -> " up to " + tier).orElse("");
            case Destination.OfCategory it -> "category/" + it.category();
            case Destination.Exactly it -> it.target().path();
        };
    }
}
