package yoru.core.proposals;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;
import yoru.core.findings.Promise;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Terms;

/** Each product that opens nothing yet to the course of the same name. */
public final class ByName {

    private static final int SAME = 95;
    private static final int CONTAINED = 75;

    private final Rulebook rulebook;
    private final RulebookIndex index;

    public ByName(Rulebook rulebook) {
        this.rulebook = rulebook;
        this.index = new RulebookIndex(rulebook);
    }

    /**
     * A guess.
     *
     * @param sure in per cent
     */
    public record Proposal(CellChange change, int sure, String why) {}

    private record Match(Course course, int sure) {}

    /** @param mapped which products need to open something */
    public List<Proposal> proposals(Predicate<Product> mapped) {
        var usual = usualTerms();
        var proposals = new ArrayList<Proposal>();
        for (Product product : rulebook.products()) {
            if (mapped.test(product) && opensNothing(product)) {
                match(product).ifPresent(match -> proposals.add(proposal(product, match, usual)));
            }
        }
        return List.copyOf(proposals);
    }

    private boolean opensNothing(Product product) {
        return Stream.concat(
                        Stream.of(Optional.<String>empty()),
                        product.options().stream().map(option -> Optional.of(option.id())))
                .allMatch(option -> index.serving(product, option).isEmpty());
    }

    private static Proposal proposal(Product product, Match match, Terms usual) {
        var promised = Promise.in(product.title());
        var terms = promised.<Terms>map(period -> Terms.DEFAULT.with(
                        new Length.Lasting(period), Terms.DEFAULT.refund(), Terms.DEFAULT.refundShare()))
                .orElse(usual);
        var name = match.sure == SAME ? "it has the same name" : "its name contains the course's";
        var time = promised.isPresent() ? "; the time is in its name" : "; the terms are the usual ones";
        return new Proposal(
                new CellChange(new Source.OfProduct(product.id()), Destination.whole(match.course.id()), terms),
                match.sure,
                name + time);
    }

    /** The best; none where two courses would do equally well. */
    private Optional<Match> match(Product product) {
        var words = words(product.title());
        var matches = rulebook.courses().stream()
                .flatMap(course -> sure(words, words(course.title())).map(sure -> new Match(course, sure)).stream())
                .sorted(Comparator.comparingInt((Match match) -> match.sure)
                        .thenComparingInt(match -> match.course.title().length())
                        .reversed())
                .toList();
        boolean tied = matches.size() > 1
                && matches.get(0).sure == matches.get(1).sure
                && matches.get(0).course.title().length()
                        == matches.get(1).course.title().length();
        return tied ? Optional.empty() : matches.stream().findFirst();
    }

    private static Optional<Integer> sure(String product, String course) {
        if (course.isBlank()) {
            return Optional.empty();
        }
        if (product.equals(course)) {
            return Optional.of(SAME);
        }
        return product.contains(course) ? Optional.of(CONTAINED) : Optional.empty();
    }

    /** " queen rearing with live calls ": whole words can be looked for in it. */
    private static String words(String title) {
        return " "
                + title.toLowerCase(Locale.ROOT)
                        .replaceAll("[^\\p{L}\\p{N}]+", " ")
                        .strip() + " ";
    }

    /** Those that most products open a course under. */
    private Terms usualTerms() {
        Map<Terms, Integer> counts = new HashMap<>();
        rulebook.links().stream()
                .filter(link -> link.from() instanceof Source.OfProduct)
                .filter(link -> link.to().stream().anyMatch(Destination.OfCourse.class::isInstance))
                .map(Link::terms)
                .forEach(terms -> counts.merge(terms, 1, Integer::sum));
        return counts.entrySet().stream()
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse(Terms.DEFAULT.with(
                        new Length.Lasting(java.time.Period.ofYears(1)),
                        Terms.DEFAULT.refund(),
                        Terms.DEFAULT.refundShare()));
    }
}
