package yoru.core.doors;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/**
 * That people meet something else at a door than before.
 *
 * @param place its path
 * @param before in words; empty = it was not there
 * @param now in words; empty = it is not there any more
 */
public record DoorChange(String place, String title, Side side, String before, String now) {

    /** What is met otherwise under another rulebook, each with the same shop and the same systems. */
    public static List<DoorChange> between(Doors old, Rulebook before, Doors now, Rulebook after) {
        var changes = new ArrayList<DoorChange>();
        var places = new LinkedHashSet<Target>(now.places());
        places.addAll(old.places());
        for (Target place : places) {
            for (Side side : List.of(Side.VISITOR, Side.WITHOUT)) {
                add(
                        changes,
                        new DoorChange(
                                place.path(),
                                after.title(place),
                                side,
                                old.closed(side, place).inWords(),
                                now.closed(side, place).inWords()));
            }
        }
        for (Product product : after.products()) {
            var was = before.product(product.id());
            for (Optional<String> option : waysToBuy(product)) {
                add(
                        changes,
                        new DoorChange(
                                "product/" + product.id(),
                                option.map(it -> after.title(new Source.OfOption(it)))
                                        .orElse(product.title()),
                                Side.BOUGHT,
                                was.filter(it -> option.isEmpty() || it.hasOption(option.get()))
                                        .map(it -> old.bought(it, option.orElse(null))
                                                .inWords())
                                        .orElse(""),
                                now.bought(product, option.orElse(null)).inWords()));
            }
        }
        return List.copyOf(changes);
    }

    /** By its options, or as it is where it has none. */
    private static List<Optional<String>> waysToBuy(Product product) {
        return product.options().isEmpty()
                ? List.of(Optional.empty())
                : product.options().stream().map(Option::id).map(Optional::of).toList();
    }

    private static void add(List<DoorChange> changes, DoorChange change) {
        if (!Objects.equals(change.before, change.now)) {
            changes.add(change);
        }
    }
}
