package yoru.core.rulebook;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** @param ownOpensOn what this product says instead of the school */
public record Product(
        String id,
        String title,
        List<String> categories,
        List<Option> options,
        @Nullable OpensOn ownOpensOn,
        Billing billing,
        Quantity quantity)
        implements Thing {

    public Product {
        categories = List.copyOf(categories);
        options = List.copyOf(options);
    }

    public Product(String id, String title, List<String> categories, Billing billing) {
        this(id, title, categories, List.of(), null, billing, Quantity.ONCE);
    }

    public Optional<OpensOn> opensOn() {
        return Optional.ofNullable(ownOpensOn);
    }

    public boolean hasOption(String option) {
        return options.stream().anyMatch(one -> one.id().equals(option));
    }

    /** The same thing as its shop names and sorts it today; what only the rulebook says of it stays. */
    public Product listedAs(String nowTitle, List<String> nowCategories, List<Option> nowOptions, Billing nowBilling) {
        boolean plain = billing instanceof Billing.Once || billing instanceof Billing.Free;
        var all = new LinkedHashMap<String, Option>();
        nowOptions.forEach(option -> all.put(option.id(), option));
        options.forEach(option -> all.putIfAbsent(option.id(), option));
        return new Product(
                id,
                nowTitle,
                nowCategories,
                List.copyOf(all.values()),
                ownOpensOn,
                plain ? nowBilling : billing,
                quantity);
    }
}
