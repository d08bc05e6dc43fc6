package yoru.server.visitors;

import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.access.Choices;
import yoru.core.access.HowLong;
import yoru.core.access.Words;
import yoru.core.desk.Desk;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Order;
import yoru.core.letters.News;
import yoru.core.orders.OrderAccount;
import yoru.core.rulebook.Target;
import yoru.server.deliveries.Confirmations;
import yoru.server.deliveries.Confirmations.Confirmation;
import yoru.server.doors.SchoolDoors;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/** What somebody has, as they are told on pages of their own. Computed anew each time. */
@Service
class OwnThings {

    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final Landscapes landscapes;
    private final Confirmations confirmations;
    private final SchoolDoors doors;
    private final Clock clock;

    OwnThings(
            LedgerReader ledger,
            Register register,
            Rulebooks rulebooks,
            Landscapes landscapes,
            Confirmations confirmations,
            SchoolDoors doors,
            Clock clock) {
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.landscapes = landscapes;
        this.confirmations = confirmations;
        this.doors = doors;
        this.clock = clock;
    }

    /**
     * Something open.
     *
     * @param howLong in words
     * @param isHere whether the systems have confirmed it
     * @param where its page; empty = none is known
     * @param verb what one does there
     */
    record Thing(String title, String howLong, boolean isHere, String where, String verb) {}

    /**
     * A level with courses to choose.
     *
     * @param premiumLeft none = as many as there are places
     */
    record Level(
            String title,
            int courses,
            int chosen,
            int left,
            @Nullable Integer premiumLeft,
            List<Course> taken) {}

    record Course(String id, String title) {}

    /** An order, as its buyer sees it. */
    record Bought(
            String id,
            Instant placed,
            String total,
            String state,
            @Nullable String invoice,
            boolean givesSeats,
            List<Line> lines) {}

    record Line(String title, int quantity, String amount) {}

    record All(Person person, List<Thing> things, List<Level> levels, List<Course> choosable, List<Bought> orders) {}

    /** All that counts for somebody, also what came under an address that is theirs no more. */
    @Transactional(readOnly = true)
    public All of(Person known) {
        var person = whoCounts(known);
        var now = rulebooks.current();
        var at = clock.instant();
        var facts = ledger.concerning(person.key()).asOf(at);
        var history = Histories.of(facts).person(person.key());
        var access = now.engine().access(history, at);
        var choices = now.engine().choices(history, at);
        return new All(
                person,
                things(person, access),
                choices.places().stream()
                        .filter(places -> places.allowance().courses() > 0)
                        .map(this::level)
                        .toList(),
                new Desk(now.engine(), facts, at)
                        .choosable(person.key()).stream().map(this::course).toList(),
                history.orders().stream()
                        .sorted(Comparator.comparing(
                                        (Order order) -> order.placed().time())
                                .reversed())
                        .map(this::bought)
                        .toList());
    }

    /** The record that counts for a person: another one where they were joined. */
    @Transactional(readOnly = true)
    public Person whoCounts(Person known) {
        var histories = Histories.of(ledger.concerning(known.key()).asOf(clock.instant()));
        return register.person(histories.personOf(known.key())).orElse(known);
    }

    /** What is open for somebody, as a letter tells it. */
    @Transactional(readOnly = true)
    public Collection<News> open(Person person) {
        return access(person).stream()
                .filter(access -> access.state().isOpen())
                .filter(access -> isWorthSaying(access.target()))
                .map(News::of)
                .toList();
    }

    private List<Access> access(Person person) {
        var at = clock.instant();
        var history = Histories.of(ledger.concerning(person.key()).asOf(at)).person(person.key());
        return rulebooks.current().engine().access(history, at);
    }

    /** Tags, lists and the like are the school's own book-keeping; a course's parts go with it. */
    private static boolean isWorthSaying(Target target) {
        return switch (target) {
            case Target.OfCourse _, Target.OfGroup _, Target.OfArea _, Target.OfDownload _ -> true;
            case Target.OfSection _, Target.OfTag _, Target.OfLevel _, Target.OfList _ -> false;
        };
    }

    /** Courses first: one begins there. */
    private List<Thing> things(Person person, List<Access> access) {
        var rulebook = rulebooks.current().rulebook();
        var words = new Words(rulebook.school().zone());
        var landscape = landscapes.current();
        return access.stream()
                .filter(one -> one.state().isOpen())
                .filter(one -> isWorthSaying(one.target()) || one.target() instanceof Target.OfLevel)
                .sorted(Comparator.comparing((Access one) -> !(one.target() instanceof Target.OfCourse)))
                .map(one -> new Thing(
                        rulebook.title(one.target()),
                        HowLong.of(one).inWords(words),
                        confirmations.of(person.id(), one.target()) == Confirmation.CONFIRMED,
                        landscape.where(one.target()).map(it -> it.address()).orElse(""),
                        one.target() instanceof Target.OfDownload ? "get" : "open"))
                .toList();
    }

    private Level level(Choices.Places places) {
        OptionalInt premium = places.premiumLeft();
        return new Level(
                places.level().title(),
                places.allowance().courses(),
                places.taken().size(),
                places.left(),
                premium.isPresent() ? premium.getAsInt() : null,
                places.taken().stream().map(this::course).toList());
    }

    private Course course(String id) {
        return new Course(id, rulebooks.current().rulebook().title(new Target.OfCourse(id)));
    }

    private Bought bought(Order order) {
        var account = new OrderAccount(order, rulebooks.current().engine());
        var currency = order.details().currency();
        var rulebook = rulebooks.current().rulebook();
        return new Bought(
                order.id(),
                order.placed().time(),
                Words.money(order.total(), currency),
                state(account),
                account.invoice().map(it -> it.number()).orElse(null),
                account.givable() > 0,
                order.details().lines().stream()
                        .map(line -> new Line(
                                rulebook.titleOfProduct(line.product()),
                                line.quantity(),
                                Words.money(line.amount(), currency)))
                        .toList());
    }

    private static String state(OrderAccount account) {
        if (account.order().cancelled().isPresent()) {
            return "cancelled";
        }
        return switch (account.state()) {
            case FREE -> "free";
            case UNPAID -> "not paid yet";
            case PARTLY_PAID -> "paid in part";
            case PAID -> "paid";
            case PARTLY_REFUNDED -> "given back in part";
            case REFUNDED -> "given back";
            case DROPPED -> "nothing to pay";
        };
    }

    /**
     * An order that is here.
     *
     * @param things what it opened and is open
     * @param later what it is still to open, with the day where that is known
     */
    record Arrived(Person person, Bought order, List<Thing> things, List<String> later) {}

    /** An order as it is known now; nothing where nobody has heard of it. */
    @Transactional(readOnly = true)
    public Optional<Arrived> order(String id) {
        return ledger.order(id, clock.instant())
                .flatMap(order -> register.person(order.person()).map(person -> arrived(order, person)));
    }

    private Arrived arrived(Order order, Person person) {
        var ofIt = access(person).stream()
                .filter(access -> access.entitlements().stream()
                        .flatMap(it -> it.reason().bought().stream())
                        .anyMatch(bought -> bought.order().id().equals(order.id())))
                .toList();
        return new Arrived(person, bought(order), things(person, ofIt), later(order, ofIt));
    }

    /** What has a day is said with it; of what is not paid yet, what it opens then. */
    private List<String> later(Order order, List<Access> ofIt) {
        var rulebook = rulebooks.current().rulebook();
        var words = new Words(rulebook.school().zone());
        var account = new OrderAccount(order, rulebooks.current().engine());
        var dated = ofIt.stream()
                .filter(access -> access.window().start().isAfter(clock.instant()) && isWorthSaying(access.target()))
                .map(access -> rulebook.title(access.target()) + ", from "
                        + words.day(access.window().start()));
        var unpaid = account.openedAt().isPresent() || account.sums().owed().signum() == 0
                ? Stream.<String>empty()
                : order.details().lines().stream()
                        .filter(line -> line.giftTo().isEmpty())
                        .flatMap(line -> rulebook.product(line.product()).stream()
                                .flatMap(product ->
                                        doors
                                                .now()
                                                .pagesOpenedBy(
                                                        product, line.option().orElse(null))
                                                .stream()))
                        .map(rulebook::title);
        return Stream.concat(dated, unpaid).distinct().toList();
    }
}
