package yoru.core.desk;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import yoru.core.access.Words;
import yoru.core.money.FarOff;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;

/** What can be done at the desk, and may be a slip of the hand: it is asked about and not refused. */
public final class Doubts {

    /** From this many times what its shop asks, or this part of it, a price is doubted. */
    private static final BigDecimal FAR = BigDecimal.TEN;

    private final Rulebook rulebook;
    private final Map<String, BigDecimal> prices;
    private final Predicate<String> isThing;

    /**
     * @param prices what the shops ask, by the product's id
     * @param isThing whether a product is a thing that is sent by post: as many as are bought
     */
    public Doubts(Rulebook rulebook, Map<String, BigDecimal> prices, Predicate<String> isThing) {
        this.rulebook = rulebook;
        this.prices = Map.copyOf(prices);
        this.isThing = isThing;
    }

    /** @param field of the act, as "items[0].price" */
    public record Doubt(String field, String question) {}

    public List<Doubt> about(Act.Sell act) {
        var doubts = new ArrayList<Doubt>();
        for (int at = 0; at < act.items().size(); at++) {
            var item = act.items().get(at);
            var title = rulebook.titleOfProduct(item.product());
            var asked = prices.getOrDefault(item.product(), BigDecimal.ZERO);
            if (FarOff.isFarOff(item.price(), asked, FAR)) {
                doubts.add(new Doubt(
                        "items[" + at + "].price",
                        "Is %s meant for %s? Its shop asks %s.".formatted(money(item.price()), title, money(asked))));
            }
            if (item.quantity() > 1 && opensOnce(item.product())) {
                doubts.add(new Doubt(
                        "items[" + at + "].quantity",
                        "However many are bought of %s, it opens once. Are %d meant?"
                                .formatted(title, item.quantity())));
            }
        }
        return doubts;
    }

    private boolean opensOnce(String product) {
        return !isThing.test(product)
                && rulebook.product(product).map(Product::quantity).stream().anyMatch(Quantity.ONCE::equals);
    }

    private String money(BigDecimal amount) {
        return Words.money(amount, rulebook.school().currency());
    }
}
