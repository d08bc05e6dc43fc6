package yoru.server.desk;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Explanation;
import yoru.core.access.WhyClosed;
import yoru.core.desk.Act;
import yoru.core.desk.Decision;
import yoru.core.desk.Desk;
import yoru.core.desk.Doubts;
import yoru.core.impact.Change;
import yoru.core.impact.Changes;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.letters.News;
import yoru.core.moves.Moves;
import yoru.core.orders.OrderAccount;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Target;
import yoru.server.announcements.Announcements;
import yoru.server.ledger.LedgerService;
import yoru.server.ledger.Person;
import yoru.server.mapping.Rulebooks;
import yoru.server.systems.Catalogue;

/** Says what an act would change, for whom, and which letter would go out, without keeping or sending anything. */
@Service
public class ActConsequences {

    private final DeskService desk;
    private final LedgerService ledger;
    private final Rulebooks rulebooks;
    private final Announcements announcements;
    private final Catalogue catalogue;
    private final Clock clock;

    ActConsequences(
            DeskService desk,
            LedgerService ledger,
            Rulebooks rulebooks,
            Announcements announcements,
            Catalogue catalogue,
            Clock clock) {
        this.desk = desk;
        this.ledger = ledger;
        this.rulebooks = rulebooks;
        this.announcements = announcements;
        this.catalogue = catalogue;
        this.clock = clock;
    }

    /**
     * What would come of an act.
     *
     * @param refusals why it cannot be done; then nothing else is said
     * @param doubts what may be a slip of the hand
     * @param seatsGone how many gifts and seats could no longer be taken up
     * @param sums of the order it is about, after it
     */
    record ActConsequence(
            List<Decision.Refusal> refusals,
            List<Doubts.Doubt> doubts,
            List<Touched> people,
            List<OpensNothing> nothing,
            int seatsGone,
            @Nullable Sums sums) {}

    /** Somebody for whom something changes, or nothing does although it is about them. */
    public record Touched(
            String key,
            String name,
            boolean isNew,
            List<ShownChange> changes,
            @Nullable ShownLetter letter) {}

    /**
     * @param renews whether it ends only if a payment does not come
     * @param why it is closed then, where it closes
     * @param start when it opens, where it is not open now
     * @param end when it then ends, none = never
     * @param endedBefore when it would have ended without the act
     */
    public record ShownChange(
            String target,
            String title,
            String sort,
            Change.Kind kind,
            boolean now,
            @Nullable Instant start,
            @Nullable Instant end,
            boolean renews,
            @Nullable Instant endedBefore,
            @Nullable String why) {}

    public record ShownLetter(String subject, String text) {}

    /** A line that opens nothing, and why. */
    record OpensNothing(String product, String why) {}

    /** In the order's currency. */
    record Sums(String currency, BigDecimal total, BigDecimal paid, BigDecimal givenBack, BigDecimal owed) {}

    @Transactional(readOnly = true)
    public ActConsequence of(ActSheet sheet) {
        var looked = desk.look(sheet);
        if (looked.decision().isRefused()) {
            return new ActConsequence(looked.decision().refusals(), List.of(), List.of(), List.of(), 0, null);
        }
        var now = clock.instant();
        var before = Histories.of(looked.known().asOf(now));
        var after = with(looked.known(), hoped(looked, now), now);
        Map<String, String> called =
                sheet.person() == null || sheet.name() == null ? Map.of() : Map.of(sheet.person(), sheet.name());
        var people = touched(looked.people(), before, after, called, now);
        var order = looked.act().aboutOrMakes().flatMap(after::order);
        return new ActConsequence(
                List.of(),
                looked.act() instanceof Act.Sell sell ? doubts(sell) : List.of(),
                people,
                order.filter(it -> looked.act() instanceof Act.Sell)
                        .map(it -> nothing(it, after, now))
                        .orElse(List.of()),
                seatsGone(looked.act(), before, after),
                order.map(this::sums).orElse(null));
    }

    private List<Doubts.Doubt> doubts(Act.Sell act) {
        var rulebook = rulebooks.current().rulebook();
        Map<String, BigDecimal> prices = catalogue.products().stream()
                .filter(sold ->
                        sold.currency().equals(rulebook.school().currency().getCurrencyCode()))
                .collect(
                        Collectors.toMap(Catalogue.SoldProduct::id, Catalogue.SoldProduct::price, (one, other) -> one));
        return new Doubts(rulebook, prices, catalogue.thingsToPost()::contains).about(act);
    }

    /**
     * What facts would change that are not kept yet.
     *
     * @param called how those are called of whom no name is known, by key
     */
    @Transactional(readOnly = true)
    public List<Touched> ofFacts(List<Fact> facts, Map<String, String> called) {
        var now = clock.instant();
        var subjects = facts.stream().map(Fact::subject).collect(Collectors.toCollection(LinkedHashSet::new));
        var known = ledger.concerning(subjects);
        return touched(subjects, Histories.of(known.asOf(now)), with(known, facts, now), called, now);
    }

    /** What is said, and the payment where a shop is to charge it. */
    private static List<Fact> hoped(DeskService.Looked looked, Instant now) {
        var facts = new ArrayList<>(looked.decision().facts());
        if (looked.act() instanceof Act.Sell it && it.payment() instanceof Act.Payment.OnFile) {
            facts.add(
                    new Fact(new FactId(Desk.SOURCE, "hoped"), it.person(), now, new Happening.OrderPaid(it.order())));
        }
        return facts;
    }

    private static Histories with(Ledger known, List<Fact> more, Instant now) {
        var facts = new ArrayList<>(known.facts());
        facts.addAll(more);
        return Histories.of(Ledger.of(facts).asOf(now));
    }

    private List<Touched> touched(
            Set<String> people, Histories before, Histories after, Map<String, String> called, Instant now) {
        var keys = new LinkedHashSet<String>();
        people.forEach(key -> {
            keys.add(before.personOf(key));
            keys.add(after.personOf(key));
        });
        return keys.stream()
                .map(key -> touched(key, before, after, called.getOrDefault(key, ""), now))
                .toList();
    }

    /** Seats that are taken up are not gone. */
    private int seatsGone(Act act, Histories before, Histories after) {
        return act instanceof Act.Claim || act instanceof Act.Assign
                ? 0
                : Math.max(0, unclaimed(before, act) - unclaimed(after, act));
    }

    private int unclaimed(Histories histories, Act act) {
        return act.aboutOrMakes()
                .flatMap(histories::order)
                .map(order -> new OrderAccount(order, rulebooks.current().engine()).unclaimed())
                .orElse(0);
    }

    private Touched touched(String key, Histories before, Histories after, String called, Instant now) {
        var current = rulebooks.current();
        var engine = current.engine();
        var was = engine.access(before.person(key), now);
        var is = engine.access(after.person(key), now);
        var changes = Changes.between(was, is, now);
        var person = ledger.person(key);
        var name =
                person.flatMap(Person::givenName).or(() -> Optional.of(called).filter(it -> !it.isEmpty()));
        var news = Moves.between(was, is).opened().stream()
                .map(it -> News.of(it.access()))
                .toList();
        var letter = announcements.letter(key, name, news, current.rulebook());
        return new Touched(
                key,
                name.orElse(key),
                person.isEmpty(),
                changes.stream()
                        .map(change -> shown(change, after.person(key), now))
                        .toList(),
                letter.map(it -> new ShownLetter(it.subject(), it.text())).orElse(null));
    }

    private ShownChange shown(Change change, History after, Instant now) {
        var last = change.after().isEmpty() ? null : change.after().getLast();
        var was = change.before().isEmpty() ? null : change.before().getLast();
        return new ShownChange(
                change.target().path(),
                rulebooks.current().rulebook().title(change.target()),
                change.target().sort(),
                change.kind(),
                change.now(),
                change.after().stream()
                        .map(one -> one.window().start())
                        .filter(start -> start.isAfter(now))
                        .findFirst()
                        .orElse(null),
                last == null ? null : last.window().endOrNone(),
                last != null && last.renews(),
                was == null ? null : was.window().endOrNone(),
                change.kind() == Change.Kind.LOSES && change.now() ? whyClosed(change.target(), after, now) : null);
    }

    /** Said of what was chosen with a level: of all else what is done says it already. */
    private @Nullable String whyClosed(Target target, History after, Instant now) {
        var current = rulebooks.current();
        return new WhyClosed(current.engine())
                .of(after, target, now).stream()
                        .filter(obstacle -> obstacle instanceof WhyClosed.Obstacle.NoPlace)
                        .findFirst()
                        .map(new Explanation(current.rulebook(), current.number())::obstacle)
                        .orElse(null);
    }

    /** Lines of which nobody has anything after it. */
    private List<OpensNothing> nothing(Order order, Histories after, Instant now) {
        var current = rulebooks.current();
        var engine = current.engine();
        var has = engine.access(after.person(order.person()), now);
        var things = catalogue.thingsToPost();
        var nothing = new ArrayList<OpensNothing>();
        for (OrderLine line : order.details().lines()) {
            boolean opens = has.stream()
                    .flatMap(access -> access.entitlements().stream())
                    .flatMap(it -> it.reason().bought().stream())
                    .anyMatch(bought -> bought.order().id().equals(order.id())
                            && bought.line().line().equals(line.line()));
            if (!opens) {
                why(order, line, things)
                        .forEach(why ->
                                nothing.add(new OpensNothing(current.rulebook().titleOfProduct(line.product()), why)));
            }
        }
        return nothing;
    }

    private Stream<String> why(Order order, OrderLine line, Set<String> things) {
        var current = rulebooks.current();
        var product = current.rulebook().product(line.product()).orElseThrow();
        if (current.engine().index().serving(product, line.option()).isEmpty()) {
            return Stream.of(
                    things.contains(product.id())
                            ? "A thing to post. It stays to be fulfilled."
                            : "Nothing is mapped to it yet.");
        }
        if (line.giftTo().isPresent()) {
            return Stream.of("It opens for whoever takes the gift up.");
        }
        if (product.billing() instanceof Billing.Recurring) {
            return order.paid().isEmpty()
                            && order.fulfilled().isEmpty()
                            && order.total().signum() > 0
                    ? Stream.of("Its subscription begins when it is paid: enter it then.")
                    : Stream.empty();
        }
        return Stream.of("It opens when it is %s."
                .formatted(new Explanation(current.rulebook(), current.number()).whatOpens(product)));
    }

    private Sums sums(Order order) {
        var sums = new OrderAccount(order, rulebooks.current().engine()).sums();
        return new Sums(
                order.details().currency().getCurrencyCode(),
                sums.amount(),
                sums.paid(),
                sums.givenBack(),
                sums.owed());
    }
}
