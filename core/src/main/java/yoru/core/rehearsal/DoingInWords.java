package yoru.core.rehearsal;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Words;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.ledger.OrderLine;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;

/** Says what is done in a story: "Ines Vale buys 2 × Queen Rearing; pays later". */
final class DoingInWords {

    private final Rulebook rulebook;
    private final Map<String, Player> people;

    DoingInWords(Rulebook rulebook, Map<String, Player> people) {
        this.rulebook = rulebook;
        this.people = people;
    }

    String of(Scene scene, Script script) {
        var who = name(scene.who() == null ? script.people().getFirst().id() : scene.who());
        return switch (scene.doing()) {
            case Doing.Buys it -> who + " buys " + lines(it.lines()) + pays(it);
            case Doing.Turns it ->
                switch (it.turn()) {
                    case PAYS -> order(it.order()) + " is paid";
                    case FULFILS -> order(it.order()) + " is fulfilled";
                    case CANCELS -> order(it.order()) + " is cancelled";
                };
            case Doing.Refunds it ->
                (it.amount() == null
                                ? "the money"
                                : Words.money(it.amount(), rulebook.school().currency()))
                        + " is given back for " + (it.line() == null ? "" : "line " + it.line() + " of ")
                        + order(it.order());
            case Doing.RefundsSubscription it ->
                "the running period of subscription " + it.subscription() + " is given back";
            case Doing.Part it ->
                "instalment %d of %s %s".formatted(it.number(), order(it.order()), it.isPaid() ? "is paid" : "fails");
            case Doing.Claims it ->
                who + " takes up " + (it.seat() == null ? "a seat" : "seat " + it.seat()) + " of " + order(it.order());
            case Doing.Subscribes it ->
                who + " subscribes to " + thing(it.product(), it.option())
                        + (it.trial() == null ? "" : ", first " + Words.period(it.trial()) + " on trial");
            case Doing.Renews it -> subscription(it.subscription()) + " is renewed";
            case Doing.Fails it -> "a payment for " + subscription(it.subscription()) + " fails";
            case Doing.Resigns it ->
                subscription(it.subscription()) + " is cancelled, "
                        + (it.atPeriodEnd() ? "for the end of what is paid" : "at once");
            case Doing.Studies it ->
                who + " "
                        + switch (it.study()) {
                            case FINISHES -> "finishes ";
                            case CHOOSES -> "chooses ";
                            case RETURNS -> "gives back ";
                        }
                        + rulebook.titleOf(Sort.COURSE, it.course());
            case Doing.Level it ->
                who + (it.gets() ? " gets the level " : " loses the level ") + rulebook.titleOf(Sort.LEVEL, it.level());
            case Doing.Tag it ->
                who + (it.gets() ? " gets the tag " : " loses the tag ") + rulebook.titleOf(Sort.TAG, it.tag());
            case Doing.IsGiven it ->
                who + " is given " + rulebook.titlesOf(it.to())
                        + (it.length() == null ? "" : " for " + Words.period(it.length()));
            case Doing.IsEnded it ->
                "what was given" + (it.grant() == null ? " last" : ", number " + it.grant() + ",") + " is ended";
            case Doing.Joins it -> name(it.person()) + " turns out to be " + who;
            case Doing.LetIn it -> order(it.order()) + " is let in";
            case Doing.Expects _ -> "it should be so";
            case Doing.Nothing _ -> "nothing more";
        };
    }

    /** What happened and waits. */
    String of(Fact fact) {
        return switch (fact.happening()) {
            case Happening.OrderPlaced it ->
                "order " + it.order() + " of "
                        + it.lines().stream().map(this::line).collect(Collectors.joining(", "))
                        + " waits: a guest whom nobody knows";
            case Happening.OfOrder it -> "what follows on order " + it.order() + " waits with it";
            default -> fact.id().words() + " waits";
        };
    }

    private String line(OrderLine line) {
        return counted(line.quantity(), thing(line.product(), line.chosenOption()));
    }

    private String lines(List<Doing.Item> items) {
        return items.stream()
                .map(item -> counted(item.quantity(), thing(item.product(), item.option()))
                        + (item.amount() == null
                                ? ""
                                : " for "
                                        + Words.money(
                                                item.amount(), rulebook.school().currency()))
                        + (item.giftTo() == null ? "" : " as a gift to " + name(item.giftTo())))
                .collect(Collectors.joining(" and "));
    }

    private static String counted(int many, String what) {
        return many == 1 ? what : many + " × " + what;
    }

    private static String pays(Doing.Buys buys) {
        var pays = switch (buys.pays()) {
            case NOW -> "";
            case LATER -> ", to be paid later";
            case IN_PARTS -> ", paying in parts";
            case ZERO -> ", at no charge";
        };
        return pays
                + switch (buys.as()) {
                    case NEW -> "";
                    case KNOWN -> ", signed in";
                    case GUEST -> ", as a guest";
                };
    }

    private String thing(String product, @Nullable String option) {
        var of = option == null
                ? Optional.<String>empty()
                : rulebook.product(product).map(Product::options).stream()
                        .flatMap(List::stream)
                        .filter(one -> one.id().equals(option))
                        .map(Option::title)
                        .findFirst();
        return rulebook.titleOfProduct(product) + of.map(it -> ", " + it).orElse("");
    }

    private String name(String person) {
        var player = people.get(person);
        return player == null ? person : player.name();
    }

    private static String order(@Nullable Integer number) {
        return number == null ? "the order" : "order " + number;
    }

    private static String subscription(@Nullable Integer number) {
        return number == null ? "the subscription" : "subscription " + number;
    }
}
