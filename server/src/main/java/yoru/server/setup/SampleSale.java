package yoru.server.setup;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import yoru.core.access.Access;
import yoru.core.access.HowLong;
import yoru.core.access.Words;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.letters.News;
import yoru.server.announcements.Announcements;
import yoru.server.deliveries.Deliveries;
import yoru.server.intake.Matchings;
import yoru.server.mapping.Rulebooks;
import yoru.server.setup.TryOnce.Hop;
import yoru.server.setup.TryOnce.Outcome;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;

/** Follows a sale that nobody made, from the shop's report to the letter, without keeping or sending anything. */
@Component
class SampleSale {

    private static final String SOMEBODY = "try@yoru.example";

    private final Catalogue catalogue;
    private final Rulebooks rulebooks;
    private final Matchings matchings;
    private final Deliveries deliveries;
    private final Announcements announcements;
    private final Clock clock;

    SampleSale(
            Catalogue catalogue,
            Rulebooks rulebooks,
            Matchings matchings,
            Deliveries deliveries,
            Announcements announcements,
            Clock clock) {
        this.catalogue = catalogue;
        this.rulebooks = rulebooks;
        this.matchings = matchings;
        this.deliveries = deliveries;
        this.announcements = announcements;
        this.clock = clock;
    }

    List<Hop> follow(Connection shop) {
        var hops = new ArrayList<Hop>();
        matchings.newest(shop.id()).ifPresent(report -> hops.add(hop("Its last report", report.said(), report.well())));
        var sold = catalogue.products().stream()
                .filter(product -> product.connection().equals(shop.id()))
                .toList();
        for (var product : sold) {
            var access = bought(product);
            if (!access.isEmpty()) {
                hops.add(hop("Somebody invented buys", product.title() + ", and pays", true));
                hops.add(hop("It opens", opened(access), true));
                hops.add(hop("Who would be told", told(access), true));
                hops.add(hop("The letter would say", letter(access), true));
                return hops;
            }
        }
        var why = sold.isEmpty()
                ? "it lists no product"
                : "none of its %d products opens anything yet: map one first".formatted(sold.size());
        hops.add(hop("Somebody invented buys", why, false));
        return hops;
    }

    private List<Access> bought(Catalogue.SoldProduct product) {
        var now = clock.instant();
        var line = new OrderLine("1", product.id(), null, 1, product.price(), null);
        var placed =
                new Happening.OrderPlaced("TRY", Channel.SHOP, Currency.getInstance(product.currency()), List.of(line));
        var facts = List.of(
                fact("1", now, placed),
                fact("2", now, new Happening.OrderPaid("TRY")),
                fact("3", now, new Happening.OrderFulfilled("TRY")));
        return rulebooks
                .current()
                .engine()
                .access(Histories.of(Ledger.of(facts)).person(SOMEBODY), now);
    }

    private static Fact fact(String id, Instant now, Happening happening) {
        return new Fact(new FactId("/try", id), SOMEBODY, now, happening);
    }

    private String opened(List<Access> access) {
        var rulebook = rulebooks.current().rulebook();
        var words = new Words(rulebook.school().zone());
        return access.stream()
                .map(one -> rulebook.title(one.target()) + " " + HowLong.of(one).inWords(words))
                .collect(Collectors.joining("; "));
    }

    private String told(List<Access> access) {
        var rulebook = rulebooks.current().rulebook();
        return access.stream()
                .map(one -> rulebook.title(one.target()) + ": "
                        + Optional.of(String.join(", ", deliveries.reached(one.target())))
                                .filter(names -> !names.isEmpty())
                                .orElse("no system"))
                .collect(Collectors.joining("; "));
    }

    private String letter(List<Access> access) {
        return announcements.letterFor(
                access.stream().map(News::of).toList(), rulebooks.current().rulebook());
    }

    private static Hop hop(String title, String text, boolean well) {
        return new Hop(title, text, well ? Outcome.WELL : Outcome.FAILED);
    }
}
