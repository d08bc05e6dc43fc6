package yoru.core.rulebook;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** @param ownOpensOn what this product says instead of the school */
public record Product(
        String id,
        String title,
        List<String> categories,
        @Nullable OpensOn ownOpensOn,
        Billing billing) {
    public Product {
        categories = List.copyOf(categories);
    }

    public Optional<OpensOn> opensOn() {
        return Optional.ofNullable(ownOpensOn);
    }
}
