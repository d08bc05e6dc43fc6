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
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Explanation;
import yoru.core.access.WhyClosed;
import yoru.core.access.WhyUnopened;
import yoru.core.desk.Act;
import yoru.core.desk.Decision;
import yoru.core.desk.Doubts;
import yoru.core.impact.Change;
import yoru.core.impact.Changes;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.History;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.orders.OrderAccount;
import yoru.core.rulebook.Target;
import yoru.core.story.Chapter;
import yoru.core.story.Deed;
import yoru.core.story.Step;
import yoru.core.story.Story;
import yoru.server.access.Stage;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;

/** Says what an act would change, for whom, and which letter would go out, without keeping or sending anything. */
@Service
public class ActConsequences {

    private final DeskService desk;
    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Stage stage;
    private final Catalogue catalogue;
    private final Clock clock;

    ActConsequences(
            DeskService desk,
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            Stage stage,
            Catalogue catalogue,
            Clock clock) {
        this.desk = desk;
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.stage = stage;
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
        var asked = desk.ask(sheet);
        var chapter = told(asked.known(), hoped(asked.act()));
        if (!chapter.refusals().isEmpty()) {
            return new ActConsequence(chapter.refusals(), List.of(), List.of(), List.of(), 0, null);
        }
        Map<String, String> called =
                sheet.person() == null || sheet.name() == null ? Map.of() : Map.of(sheet.person(), sheet.name());
        var order = asked.act().aboutOrMakes().flatMap(chapter.after()::order);
        return new ActConsequence(
                List.of(),
                asked.act() instanceof Act.Sell sell ? doubts(sell) : List.of(),
                touched(asked.people(), chapter, called),
                order.filter(it -> asked.act() instanceof Act.Sell)
                        .map(it -> nothing(it, chapter))
                        .orElse(List.of()),
                seatsGone(asked.act(), chapter),
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
        var subjects = facts.stream().map(Fact::subject).collect(Collectors.toCollection(LinkedHashSet::new));
        var reported = facts.stream().<Deed>map(Deed.Reported::new).toList();
        return touched(subjects, told(ledger.concerning(subjects), reported), called);
    }

    private Chapter told(Ledger known, List<Deed> deeds) {
        var now = clock.instant();
        return Story.begin(stage.now(), known, now).tell(new Step(now, deeds));
    }

    /** The act, and the payment where a shop is to charge it. */
    private static List<Deed> hoped(Act act) {
        var does = new Deed.Acts(act, DeskService.NOT_DONE);
        return act instanceof Act.Sell it && it.payment() instanceof Act.Payment.OnFile
                ? List.of(does, new Deed.Happens(it.person(), new Happening.OrderPaid(it.order())))
                : List.of(does);
    }

    private List<Touched> touched(Set<String> people, Chapter chapter, Map<String, String> called) {
        var keys = new LinkedHashSet<String>();
        people.forEach(key -> {
            keys.add(chapter.before().personOf(key));
            keys.add(chapter.after().personOf(key));
        });
        return keys.stream()
                .map(key -> touched(key, chapter, called.getOrDefault(key, "")))
                .toList();
    }

    /** Seats that are taken up are not gone. */
    private int seatsGone(Act act, Chapter chapter) {
        return act instanceof Act.Claim || act instanceof Act.Assign
                ? 0
                : Math.max(0, unclaimed(chapter.before(), act) - unclaimed(chapter.after(), act));
    }

    private int unclaimed(Histories histories, Act act) {
        return act.aboutOrMakes()
                .flatMap(histories::order)
                .map(order -> new OrderAccount(order, rulebooks.current().engine()).unclaimed())
                .orElse(0);
    }

    private Touched touched(String key, Chapter chapter, String called) {
        var person = register.person(key);
        var name =
                person.flatMap(Person::givenName).or(() -> Optional.of(called).filter(it -> !it.isEmpty()));
        return new Touched(
                key,
                name.orElse(key),
                person.isEmpty(),
                Changes.between(chapter.without(key), chapter.with(key), chapter.at()).stream()
                        .map(change -> shown(change, chapter.after().person(key), chapter.at()))
                        .toList(),
                chapter.letter(key, name)
                        .map(it -> new ShownLetter(it.subject(), it.text()))
                        .orElse(null));
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
    private List<OpensNothing> nothing(Order order, Chapter chapter) {
        var current = rulebooks.current();
        var has = chapter.with(order.person());
        var unopened = new WhyUnopened(current.engine(), catalogue.thingsToPost()::contains);
        var nothing = new ArrayList<OpensNothing>();
        for (OrderLine line : order.details().lines()) {
            boolean opens = has.stream()
                    .flatMap(access -> access.entitlements().stream())
                    .flatMap(it -> it.reason().bought().stream())
                    .anyMatch(bought -> bought.order().id().equals(order.id())
                            && bought.line().line().equals(line.line()));
            var why = unopened.of(order, line);
            boolean begun = why instanceof WhyUnopened.Cause.BySubscription it && !it.begins();
            if (!opens && !begun) {
                nothing.add(new OpensNothing(
                        current.rulebook().titleOfProduct(line.product()),
                        new Explanation(current.rulebook(), current.number()).unopened(why)));
            }
        }
        return nothing;
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
