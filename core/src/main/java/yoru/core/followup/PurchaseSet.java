package yoru.core.followup;

import java.util.Set;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.RulebookIndex;

/** Things that one can buy, named one by one or by category; a line is of the set when any of the three has it. */
public record PurchaseSet(Set<String> products, Set<String> options, Set<String> categories) {

    public PurchaseSet {
        products = Set.copyOf(products);
        options = Set.copyOf(options);
        categories = Set.copyOf(categories);
    }

    /** The product, the option or a category of the product is named. */
    public boolean has(OrderLine line, RulebookIndex index) {
        return products.contains(line.product())
                || line.option().filter(options::contains).isPresent()
                || index.product(line.product())
                        .filter(product -> product.categories().stream().anyMatch(categories::contains))
                        .isPresent();
    }
}
