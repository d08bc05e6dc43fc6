package yoru.core.findings;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.findings.Finding.Kind;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;

/** What has become of shops and catalogues since the mapping was published. */
final class CatalogueFindings {

    private final Rulebook rulebook;
    private final Observed observed;

    CatalogueFindings(Rulebook rulebook, Observed observed) {
        this.rulebook = rulebook;
        this.observed = observed;
    }

    void addTo(List<Finding> found) {
        observed.checkouts().forEach(checkout -> checkout(checkout, found));
        var published = observed.published();
        if (published != null) {
            renamed("product", published.products(), rulebook.products(), Product::id, Product::title, found);
            renamed("course", published.courses(), rulebook.courses(), Course::id, Course::title, found);
            var links = Set.copyOf(published.links());
            rulebook.links().stream().filter(links::contains).forEach(link -> coversMore(link, published, found));
        }
    }

    private static void checkout(Observed.Checkout checkout, List<Finding> found) {
        if (checkout.guests()) {
            found.add(Finding.of(
                    Kind.GUESTS_CAN_BUY,
                    "system/" + checkout.shop(),
                    checkout.title() + " lets guests buy",
                    "Who buys without an account cannot sign in to what was bought.",
                    "Let its checkout make an account for every buyer."));
        }
        if (!checkout.password()) {
            found.add(Finding.of(
                    Kind.NO_PASSWORD,
                    "system/" + checkout.shop(),
                    checkout.title() + " asks new buyers for no password",
                    "They get an account that they cannot sign in to without resetting a password they never had.",
                    "Put a password field on its checkout."));
        }
    }

    private static <T> void renamed(
            String sort,
            List<T> before,
            List<T> now,
            Function<T, String> id,
            Function<T, String> title,
            List<Finding> found) {
        Map<String, String> old = before.stream().collect(Collectors.toMap(id, title, (one, other) -> one));
        for (T thing : now) {
            @Nullable String was = old.get(id.apply(thing));
            if (was != null && !was.equals(title.apply(thing))) {
                found.add(Finding.of(
                        Kind.RENAMED,
                        sort + "/" + id.apply(thing),
                        "“%s” is now “%s”".formatted(was, title.apply(thing)),
                        "It was renamed in its system since the mapping was published; links follow the id and still hold.",
                        "See whether it is still the same thing. The next publish takes the name over."));
            }
        }
    }

    /** Things that came into a category by themselves. */
    private void coversMore(Link link, Rulebook published, List<Finding> found) {
        if (link.from() instanceof Source.OfCategory it) {
            more(
                    link,
                    it.category(),
                    "What opens " + rulebook.titlesOf(link.to()) + " now counts",
                    products(published, it),
                    products(rulebook, it),
                    found);
        }
        for (Destination to : link.to()) {
            if (to instanceof Destination.OfCategory it) {
                more(
                        link,
                        it.category(),
                        "What " + rulebook.title(link.from()) + " opens now counts",
                        courses(published, it),
                        courses(rulebook, it),
                        found);
            }
        }
    }

    private static void more(
            Link link,
            String category,
            String words,
            Map<String, String> before,
            Map<String, String> now,
            List<Finding> found) {
        var fresh = now.entrySet().stream()
                .filter(one -> !before.containsKey(one.getKey()))
                .map(Map.Entry::getValue)
                .sorted()
                .toList();
        if (!fresh.isEmpty()) {
            found.add(Finding.of(
                    Kind.COVERS_MORE,
                    "link/" + link.id(),
                    "Category " + category + " covers more than before",
                    words + " for " + String.join(", ", fresh)
                            + " too, which came into the category since it was published.",
                    "If it is meant so, publish again; otherwise leave it out of the link."));
        }
    }

    private static Map<String, String> products(Rulebook book, Source.OfCategory category) {
        return book.products().stream()
                .filter(product -> product.categories().contains(category.category()))
                .collect(Collectors.toMap(Product::id, Product::title));
    }

    private static Map<String, String> courses(Rulebook book, Destination.OfCategory category) {
        return book.courses().stream()
                .filter(course -> course.categories().contains(category.category())
                        && !category.except().contains(course.id()))
                .collect(Collectors.toMap(Course::id, Course::title));
    }
}
