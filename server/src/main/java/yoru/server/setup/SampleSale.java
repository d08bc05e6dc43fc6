package yoru.server.setup;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import yoru.core.access.Words;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.letters.Letter;
import yoru.core.moves.Moves;
import yoru.core.rulebook.Target;
import yoru.core.story.Chapter;
import yoru.core.story.Step;
import yoru.core.story.Story;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Matter;
import yoru.server.access.Stage;
import yoru.server.intake.Matchings;
import yoru.server.rulebooks.Rulebooks;
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
    private final Stage stage;
    private final Clock clock;

    SampleSale(Catalogue catalogue, Rulebooks rulebooks, Matchings matchings, Stage stage, Clock clock) {
        this.catalogue = catalogue;
        this.rulebooks = rulebooks;
        this.matchings = matchings;
        this.stage = stage;
        this.clock = clock;
    }

    List<Hop> follow(Connection shop) {
        var hops = new ArrayList<Hop>();
        matchings.newest(shop.id()).ifPresent(report -> hops.add(hop("Its last report", report.said(), report.well())));
        var sold = catalogue.products().stream()
                .filter(product -> product.connection().equals(shop.id()))
                .toList();
        for (var product : sold) {
            var chapter = bought(product);
            var opened =
                    chapter.turn(SOMEBODY).map(turn -> turn.moves().opened()).orElse(List.of());
            if (!opened.isEmpty()) {
                hops.add(hop("Somebody invented buys", product.title() + ", and pays", true));
                hops.add(hop("It opens", opened(opened), true));
                hops.add(hop("Who would be told", told(opened, chapter), true));
                hops.add(hop("The letter would say", letter(chapter), true));
                return hops;
            }
        }
        var why = sold.isEmpty()
                ? "it lists no product"
                : "none of its %d products opens anything yet: map one first".formatted(sold.size());
        hops.add(hop("Somebody invented buys", why, false));
        return hops;
    }

    private Chapter bought(Catalogue.SoldProduct product) {
        var line = new OrderLine("1", product.id(), null, 1, product.price(), null);
        var placed =
                new Happening.OrderPlaced("TRY", Channel.SHOP, Currency.getInstance(product.currency()), List.of(line));
        var now = clock.instant();
        return Story.begin(stage.now(), now)
                .tell(Step.of(
                        now, SOMEBODY, placed, new Happening.OrderPaid("TRY"), new Happening.OrderFulfilled("TRY")));
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
