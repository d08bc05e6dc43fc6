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
import yoru.core.ledger.Happening;
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
import yoru.core.story.Setting;
import yoru.core.story.Step;
import yoru.core.story.Story;
import yoru.core.systems.Landscape;
import yoru.core.time.SchoolCalendar;

/** What one link alone does for somebody invented, from a moment on: computed by the engine, not described. */
public final class SampleStory {

    private static final String SOMEBODY = "somebody";
    private static final String ORDER = "order";
    private static final String AGAIN = "again";
    private static final Period A_WEEK = Period.ofDays(7);
    private static final Period A_MONTH = Period.ofMonths(1);

    private final Rulebook rulebook;
    private final Setting setting;
    private final Link link;
    private final Target target;
    private final Instant moment;
    private final SchoolCalendar calendar;

    private SampleStory(Rulebook rulebook, Link link, Target target, Instant moment) {
        this.rulebook = rulebook.withLinks(List.of(link));
        this.setting = new Setting("", new Engine(this.rulebook), Landscape.EMPTY);
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
                List.of(scene("Finished today", List.of(step(moment, new Happening.CourseCompleted(it.course())))));
        };
    }

    private List<Scene> held(Happening starts, Happening ends, String what) {
        var start = step(moment, starts);
        return List.of(
                scene("Gets the " + what + " today", List.of(start)),
                scene("and loses it a month later", List.of(start, step(calendar.plus(moment, A_MONTH), ends))));
    }

    private List<Scene> bought(Optional<Product> product, Optional<String> option) {
        return product.map(it -> it.billing() instanceof Billing.Recurring billing
                        ? subscribed(it, option, billing)
                        : ordered(it, option))
                .orElse(List.of());
    }

    private List<Scene> ordered(Product product, Optional<String> option) {
        var order = order(product, option, ORDER, moment);
        var scenes = new ArrayList<Scene>();
        if (product.billing() instanceof Billing.Instalments plan) {
            scenes.add(scene("Bought today, every instalment paid in time", instalments(order, plan)));
            // a payment that has not come is not assumed
            scenes.add(scene("and none paid but the first", List.of(order)));
        } else {
            scenes.add(scene("Bought today", List.of(order)));
        }
        var aWeekLater = calendar.plus(moment, A_WEEK);
        if (link.terms().length() instanceof Length.Lasting it && !it.period().isZero()) {
            scenes.add(scene("and again a week later", List.of(order, order(product, option, AGAIN, aWeekLater))));
        }
        if (!(product.billing() instanceof Billing.Free)) {
            var refunded = step(aWeekLater, new Happening.OrderRefunded(ORDER, null, null));
            scenes.add(scene("and the money given back after a week", List.of(order, refunded)));
        }
        return List.copyOf(scenes);
    }

    private List<Step> instalments(Step order, Billing.Instalments plan) {
        var steps = new ArrayList<>(List.of(order));
        for (int number = 2; number <= plan.count(); number++) {
            var due = calendar.plus(moment, plan.every().multipliedBy(number - 1));
            steps.add(step(due, new Happening.InstalmentPaid(ORDER, "1", number)));
        }
        return steps;
    }

    private List<Scene> subscribed(Product product, Optional<String> option, Billing.Recurring billing) {
        var paidThrough = calendar.plus(moment, billing.every());
        var started = step(
                moment,
                new Happening.SubscriptionStarted(ORDER, product.id(), option.orElse(null), paidThrough, false));
        var renewed = step(
                paidThrough, new Happening.SubscriptionRenewed(ORDER, calendar.plus(paidThrough, billing.every())));
        var cancelled = step(calendar.plus(moment, Period.ofDays(1)), new Happening.SubscriptionCancelled(ORDER, true));
        return List.of(
                scene("Subscribed today, and not paid again", List.of(started)),
                scene("and paid once more", List.of(started, renewed)),
                scene("and cancelled tomorrow for the period's end", List.of(started, cancelled)));
    }

    /** Placed, paid and fulfilled at once, so that it opens whatever the school waits for. */
    private Step order(Product product, Optional<String> option, String order, Instant at) {
        var amount = product.billing() instanceof Billing.Free ? BigDecimal.ZERO : BigDecimal.valueOf(100);
        var line = new OrderLine("1", product.id(), option.orElse(optionOf(product)), 1, amount, null);
        var currency = rulebook.school().currency();
        return step(
                at,
                new Happening.OrderPlaced(order, Channel.SHOP, currency, List.of(line)),
                new Happening.OrderPaid(order),
                new Happening.OrderFulfilled(order));
    }

    private static @Nullable String optionOf(Product product) {
        return product.options().stream().map(Option::id).findFirst().orElse(null);
    }

    private static Step step(Instant at, Happening... happenings) {
        return Step.of(at, SOMEBODY, happenings);
    }

    private Scene scene(String what, List<Step> steps) {
        var story = Story.begin(setting, moment);
        steps.forEach(story::tell);
        return new Scene(
                what,
                story.access(SOMEBODY).stream()
                        .filter(access -> access.target().equals(target))
                        .map(Access::window)
                        .toList());
    }
}
