package yoru.core.findings;

import java.math.BigDecimal;
import java.time.Period;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.access.Words;
import yoru.core.findings.Finding.Kind;
import yoru.core.findings.Observed.Offer;
import yoru.core.money.FarOff;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Target;

/** What is wrong on the side of what is sold. */
final class ProductFindings {

    /** "Ten typed, ten cents charged": a price is questioned from this many times its siblings' on. */
    private static final BigDecimal FAR = BigDecimal.valueOf(50);

    private static final int ENOUGH_SIBLINGS = 2;
    private final Ways ways;
    private final Observed observed;
    private final Map<String, Integer> buyers;
    private final Map<String, Offer> offers = new HashMap<>();

    ProductFindings(Ways ways, Observed observed) {
        this.ways = ways;
        this.observed = observed;
        this.buyers = observed.sales().stream()
                .collect(Collectors.toMap(Sales::product, Sales::buyers, Integer::sum, TreeMap::new));
        if (observed.offers() != null) {
            observed.offers().forEach(offer -> offers.put(offer.product(), offer));
        }
    }

    void addTo(List<Finding> found) {
        buyers.keySet().stream()
                .filter(id -> ways.index().product(id).isEmpty())
                .forEach(id -> found.add(unknown(id)));
        observed.surplus().forEach(it -> found.add(paidForMore(it)));
        for (Product product : ways.rulebook().products()) {
            mapped(product, found);
            neverFulfilled(product).ifPresent(found::add);
            promise(product).ifPresent(found::add);
            gone(product).ifPresent(found::add);
            farOff(product).ifPresent(found::add);
            tooCheap(product).ifPresent(found::add);
        }
    }

    private Finding unknown(String product) {
        return Finding.of(
                        Kind.UNKNOWN_PRODUCT,
                        "product/" + product,
                        "Nobody knows the product " + product,
                        "",
                        "See whether the shop that sells it is connected. The orders are kept and take effect once it is known and mapped.")
                .touching(buyers(product), "It was ordered, but no connected shop lists it.");
    }

    private Finding paidForMore(Observed.Surplus surplus) {
        var products =
                surplus.products().stream().map(ways.rulebook()::titleOfProduct).collect(Collectors.joining(", "));
        return Finding.of(
                Kind.PAID_FOR_MORE,
                "order/" + surplus.order(),
                surplus.buyer() + " paid for more than one of " + products,
                "Order " + surplus.order() + ": however many are bought of it, it opens once.",
                "Give the rest of the money back, let somebody else in, or accept that it is meant so.");
    }

    private void mapped(Product product, List<Finding> found) {
        if (isThing(product)) {
            return;
        }
        var subject = "product/" + product.id();
        int bought = buyers(product.id());
        if (!ways.opensSomething(product)) {
            var map = "Map it to what it should open, or take it from sale.";
            found.add(
                    bought > 0
                            ? Finding.of(Kind.OPENS_NOTHING, subject, product.title() + " opens nothing", "", map)
                                    .touching(
                                            bought,
                                            Finding.counted(bought, "person has", "people have")
                                                    + " ordered it and got nothing.")
                            : Finding.of(
                                    Kind.NOT_MAPPED_YET,
                                    subject,
                                    product.title() + " opens nothing yet",
                                    "Nobody has ordered it so far.",
                                    map));
            return;
        }
        if (ways.serving(product).isEmpty()) {
            product.options().stream()
                    .filter(option -> !ways.optionOpensSomething(product, option.id()))
                    .forEach(option -> found.add(Finding.of(
                            Kind.OPTION_OPENS_NOTHING,
                            "option/" + option.id(),
                            product.title() + ", " + option.title() + " opens nothing",
                            "Other options of it are mapped.",
                            "Map the option as its siblings are, or the whole product.")));
        }
    }

    private Optional<Finding> neverFulfilled(Product product) {
        boolean waits = ways.rulebook().opensOn(product) == OpensOn.FULFILLED && ways.opensSomething(product);
        return !waits || isThing(product) || observed.offers() == null
                ? Optional.empty()
                : Optional.of(Finding.of(
                        Kind.NEVER_FULFILLED,
                        "product/" + product.id(),
                        product.title() + " waits to be fulfilled",
                        "It opens when its order is fulfilled, and it is nothing that anybody posts.",
                        "Let it open when it is paid."));
    }

    /** "1 year" in what it is called or described as, and another term in the mapping. */
    private Optional<Finding> promise(Product product) {
        var offer = offers.get(product.id());
        boolean named = Promise.in(product.title()).isPresent();
        var said = named || offer == null ? product.title() : offer.about();
        var promised = Promise.in(said);
        if (promised.isEmpty()) {
            return Optional.empty();
        }
        var other = ways.serving(product).stream()
                .filter(link -> link.to().stream().anyMatch(ProductFindings::isPromised))
                .filter(link -> !lasts(product, link, promised.get()))
                .findFirst();
        return other.map(link -> Finding.of(
                        Kind.PROMISE_DIFFERS,
                        "product/" + product.id(),
                        product.title() + " says another time than it opens for",
                        "It is %s “%s”, and opens %s %s."
                                .formatted(
                                        named ? "called" : "described as",
                                        said,
                                        ways.rulebook()
                                                .titlesOf(link.to().stream()
                                                        .filter(ProductFindings::isPromised)
                                                        .toList()),
                                        inWords(link.terms().length())),
                        "Set the term to " + Words.period(promised.get()) + ", or change what is promised.")
                .mendedBy(as(link, promised.get())));
    }

    /** Whether a time that is promised is about it; what is given along with a course may be for good. */
    private static boolean isPromised(Destination to) {
        return !(to instanceof Destination.Exactly it)
                || switch (it.target()) {
                    case Target.OfCourse _, Target.OfSection _, Target.OfLevel _ -> true;
                    case Target.OfTag _, Target.OfList _, Target.OfGroup _, Target.OfArea _, Target.OfDownload _ ->
                        false;
                };
    }

    /** What the link opens for as long as was promised. */
    private static List<CellChange> as(Link link, Period promised) {
        var terms = link.terms();
        var lasting = terms.with(new Length.Lasting(promised), terms.refund(), terms.refundShare());
        return link.to().stream()
                .filter(ProductFindings::isPromised)
                .map(to -> new CellChange(link.from(), to, lasting))
                .toList();
    }

    /** As long as was promised; or as long as it is paid for, where the time is that of one payment. */
    private static boolean lasts(Product product, Link link, Period promised) {
        return switch (link.terms().length()) {
            case Length.Lasting it -> same(it.period(), promised);
            case Length.Held _ -> product.billing() instanceof Billing.Recurring it && same(it.every(), promised);
        };
    }

    private static boolean same(Period one, Period other) {
        return one.normalized().equals(other.normalized());
    }

    private static String inWords(Length length) {
        return switch (length) {
            case Length.Held _ -> "without an end";
            case Length.Lasting it -> "for " + Words.period(it.period());
        };
    }

    private Optional<Finding> gone(Product product) {
        return observed.offers() == null || offers.containsKey(product.id()) || !ways.opensSomething(product)
                ? Optional.empty()
                : Optional.of(Finding.of(
                        Kind.PRODUCT_GONE,
                        "product/" + product.id(),
                        product.title() + " is no longer sold",
                        "It is mapped, and no connected shop lists it any more.",
                        "Leave the links where past buyers keep what they have; close them where nobody should."));
    }

    private Optional<Finding> farOff(Product product) {
        var offer = offers.get(product.id());
        if (offer == null || offer.price().signum() == 0) {
            return Optional.empty();
        }
        var siblings = ways.rulebook().products().stream()
                .filter(other -> !other.id().equals(product.id())
                        && other.categories().equals(product.categories())
                        && offers.containsKey(other.id()))
                .map(other -> offers.get(other.id()))
                .filter(other -> other.currency().equals(offer.currency())
                        && other.price().signum() > 0)
                .map(Offer::price)
                .sorted()
                .toList();
        if (siblings.size() < ENOUGH_SIBLINGS) {
            return Optional.empty();
        }
        var usual = siblings.get(siblings.size() / 2);
        return FarOff.isFarOff(offer.price(), usual, FAR)
                ? Optional.of(Finding.of(
                        Kind.PRICE_FAR_OFF,
                        "product/" + product.id(),
                        "Is the price of " + product.title() + " meant so?",
                        "It costs %s; others of its category cost about %s."
                                .formatted(Words.money(offer.price(), offer.unit()), Words.money(usual, offer.unit())),
                        "See in the shop whether an amount was typed in another unit."))
                : Optional.empty();
    }

    /** Twelve instalments usually add up to more than the price paid at once (common practice, no source). */
    private Optional<Finding> tooCheap(Product product) {
        var offer = offers.get(product.id());
        var opens = ways.places(product);
        if (offer == null || opens.isEmpty() || !(product.billing() instanceof Billing.Instalments)) {
            return Optional.empty();
        }
        return ways.rulebook().products().stream()
                .filter(other -> other.billing() instanceof Billing.Once
                        && ways.places(other).equals(opens))
                .flatMap(other -> Stream.ofNullable(offers.get(other.id())))
                .filter(once ->
                        once.currency().equals(offer.currency()) && once.price().compareTo(offer.price()) > 0)
                .findFirst()
                .map(once -> Finding.of(
                        Kind.INSTALMENTS_TOO_CHEAP,
                        "product/" + product.id(),
                        "The instalments of " + product.title() + " add up to less than paying at once",
                        "All of them are %s, and %s, which opens the same, costs %s."
                                .formatted(
                                        Words.money(offer.price(), offer.unit()),
                                        ways.rulebook().titleOfProduct(once.product()),
                                        Words.money(once.price(), once.unit())),
                        "See in the shop whether the amount of one instalment stands where all of them should."));
    }

    private boolean isThing(Product product) {
        var offer = offers.get(product.id());
        return offer != null
                ? offer.thing()
                : observed.sales().stream().anyMatch(sold -> sold.product().equals(product.id()) && sold.thing());
    }

    private int buyers(String product) {
        return buyers.getOrDefault(product, 0);
    }
}
