package yoru.core.samples;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.access.Window;
import yoru.core.ledger.Channel;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.time.SchoolCalendar;

/** What one link alone does for somebody invented, from a moment on: computed by the engine, not described. */
public final class SampleStory {

    private static final String SOMEBODY = "somebody";
    private static final String ORDER = "order";
    private static final Period A_WEEK = Period.ofDays(7);
    private static final Period A_MONTH = Period.ofMonths(1);

    private final Rulebook rulebook;
    private final Engine engine;
    private final Link link;
    private final Target target;
    private final Instant moment;
    private final SchoolCalendar calendar;

    private SampleStory(Rulebook rulebook, Link link, Target target, Instant moment) {
        this.rulebook = rulebook.withLinks(List.of(link));
        this.engine = new Engine(this.rulebook);
        this.link = link;
        this.target = target;
        this.moment = moment;
        this.calendar = new SchoolCalendar(rulebook.school().zone());
    }

    /**
     * What could happen, and when it is open then.
     *
     * @param windows none = it does not open
     */
    public record Scene(String what, List<Window> windows) {
        public Scene {
            windows = List.copyOf(windows);
        }
    }

    /** None where no link leads from the source to the place, or where it leads to nothing. */
    public static List<Scene> of(Rulebook rulebook, Source source, Destination place, Instant moment) {
        return rulebook.links().stream()
                .filter(link -> link.leads(source, place))
                .findFirst()
                .map(link -> scenes(rulebook, link, place, moment))
                .orElse(List.of());
    }

    private static List<Scene> scenes(Rulebook rulebook, Link link, Destination place, Instant moment) {
        return link.to().stream()
                .filter(to -> to.place().equals(place.place()))
                .flatMap(to -> new RulebookIndex(rulebook).targets(to).stream())
                .findFirst()
                .map(target -> new SampleStory(rulebook, link, target, moment).scenes())
                .orElse(List.of());
    }

    private List<Scene> scenes() {
        return switch (link.from()) {
            case Source.OfProduct it -> bought(rulebook.product(it.product()), Optional.empty());
            case Source.OfOption it ->
                bought(
                        rulebook.products().stream()
                                .filter(product -> product.hasOption(it.option()))
                                .findFirst(),
                        Optional.of(it.option()));
            case Source.OfCategory it ->
                bought(
                        rulebook.products().stream()
                                .filter(product -> product.categories().contains(it.category()))
                                .findFirst(),
                        Optional.empty());
            case Source.OfLevel it ->
                held(new Happening.LevelStarted(it.level()), new Happening.LevelEnded(it.level()), "level");
            case Source.OfTag it -> held(new Happening.TagAdded(it.tag()), new Happening.TagRemoved(it.tag()), "tag");
            case Source.OfCompleted it ->
                List.of(scene("Finished today", fact(1, moment, new Happening.CourseCompleted(it.course()))));
        };
    }

    private List<Scene> held(Happening starts, Happening ends, String what) {
        var start = fact(1, moment, starts);
        return List.of(
                scene("Gets the " + what + " today", start),
                scene("and loses it a month later", start, fact(2, calendar.plus(moment, A_MONTH), ends)));
    }

    private List<Scene> bought(Optional<Product> product, Optional<String> option) {
        return product.map(it -> it.billing() instanceof Billing.Recurring billing
                        ? subscribed(it, option, billing)
                        : ordered(it, option))
                .orElse(List.of());
    }

    private List<Scene> ordered(Product product, Optional<String> option) {
        var order = order(product, option, ORDER, moment, 1);
        var scenes = new ArrayList<Scene>();
        if (product.billing() instanceof Billing.Instalments plan) {
            scenes.add(scene("Bought today, every instalment paid in time", order, instalments(plan)));
            // a payment that has not come is not assumed
            scenes.add(scene("and none paid but the first", order, List.of()));
        } else {
            scenes.add(scene("Bought today", order, List.of()));
        }
        if (link.terms().length() instanceof Length.Lasting it && !it.period().isZero()) {
            var again = order(product, option, "again", calendar.plus(moment, A_WEEK), 4);
            scenes.add(scene("and again a week later", order, again));
        }
        if (!(product.billing() instanceof Billing.Free)) {
            var refunded = fact(9, calendar.plus(moment, A_WEEK), new Happening.OrderRefunded(ORDER, null, null));
            scenes.add(scene("and the money given back after a week", order, List.of(refunded)));
        }
        return List.copyOf(scenes);
    }

    private List<Fact> instalments(Billing.Instalments plan) {
        var facts = new ArrayList<Fact>();
        for (int number = 2; number <= plan.count(); number++) {
            var due = calendar.plus(moment, plan.every().multipliedBy(number - 1));
            facts.add(fact(20 + number, due, new Happening.InstalmentPaid(ORDER, "1", number)));
        }
        return facts;
    }

    private List<Scene> subscribed(Product product, Optional<String> option, Billing.Recurring billing) {
        var paidThrough = calendar.plus(moment, billing.every());
        var started = fact(
                1,
                moment,
                new Happening.SubscriptionStarted(ORDER, product.id(), option.orElse(null), paidThrough, false));
        var renewed = fact(
                2, paidThrough, new Happening.SubscriptionRenewed(ORDER, calendar.plus(paidThrough, billing.every())));
        var cancelled =
                fact(3, calendar.plus(moment, Period.ofDays(1)), new Happening.SubscriptionCancelled(ORDER, true));
        return List.of(
                scene("Subscribed today, and not paid again", started),
                scene("and paid once more", started, renewed),
                scene("and cancelled tomorrow for the period's end", started, cancelled));
    }

    /** Placed, paid and fulfilled at once, so that it opens whatever the school waits for. */
    private List<Fact> order(Product product, Optional<String> option, String order, Instant at, int first) {
        var amount = product.billing() instanceof Billing.Free ? BigDecimal.ZERO : BigDecimal.valueOf(100);
        var line = new OrderLine("1", product.id(), option.orElse(optionOf(product)), 1, amount, null);
        var currency = rulebook.school().currency();
        return List.of(
                fact(first, at, new Happening.OrderPlaced(order, Channel.SHOP, currency, List.of(line))),
                fact(first + 1, at, new Happening.OrderPaid(order)),
                fact(first + 2, at, new Happening.OrderFulfilled(order)));
    }

    private static @Nullable String optionOf(Product product) {
        return product.options().stream().map(Option::id).findFirst().orElse(null);
    }

    private Fact fact(int number, Instant time, Happening happening) {
        return new Fact(new FactId("sample", "%03d".formatted(number)), SOMEBODY, time, happening);
    }

    private Scene scene(String what, Fact... facts) {
        return scene(what, List.of(facts), List.of());
    }

    private Scene scene(String what, List<Fact> one, List<Fact> other) {
        var facts = new ArrayList<>(one);
        facts.addAll(other);
        var asOf = facts.stream().map(Fact::time).max(Instant::compareTo).orElse(moment);
        return new Scene(
                what,
                engine.evaluate(Ledger.of(facts), asOf).access().stream()
                        .filter(access -> access.target().equals(target))
                        .map(Access::window)
                        .toList());
    }
}
