package yoru.core.rehearsal;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.doors.Offer;
import yoru.core.letters.LetterWording;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;

/**
 * What is around a rulebook where a story is tried.
 *
 * @param school as letters call it
 * @param kinds of the systems of the landscape, by their ids: a story can name a kind where no system is called so, and
 *     then holds in schools whose systems are called otherwise
 * @param prices what things cost in the shop
 * @param guestsAreHeld whether an order of somebody unknown without an account waits until it is let in
 * @param guestsCanBuy whether the shop lets anybody buy without an account
 * @param wording the school's own words for the letter about what opened; none = those that it ships with
 * @param offers what the shop sells, with its options
 * @param ownPage whether letters carry a link to a page of the reader's own
 */
public record Surroundings(
        String school,
        Landscape landscape,
        Map<String, String> kinds,
        Prices prices,
        boolean guestsAreHeld,
        boolean guestsCanBuy,
        @Nullable LetterWording wording,
        List<Offer> offers,
        boolean ownPage) {

    public Surroundings {
        kinds = Map.copyOf(kinds);
        offers = List.copyOf(offers);
    }

    /** The system of that id, else those of that kind; none where neither is there. */
    List<ConnectedSystem> named(String name) {
        var systems = landscape.systems();
        var called = systems.stream().filter(one -> one.id().equals(name)).toList();
        return called.isEmpty()
                ? systems.stream()
                        .filter(one -> name.equals(kinds.get(one.id())))
                        .toList()
                : called;
    }

    /** All names that a story can give a system. */
    Set<String> names() {
        var names =
                landscape.systems().stream().map(ConnectedSystem::id).collect(Collectors.toCollection(TreeSet::new));
        names.addAll(kinds.values());
        return names;
    }

    /** What the shop's catalogue says. */
    @FunctionalInterface
    public interface Prices {

        /** No price is known. */
        Prices UNKNOWN = (product, option) -> Optional.empty();

        /** Of one of it, in the school's currency; nothing where it is not known. */
        Optional<BigDecimal> of(String product, Optional<String> option);
    }

    public Surroundings(String school, Landscape landscape) {
        this(school, landscape, Map.of(), Prices.UNKNOWN, false, true, null, List.of(), false);
    }
}
