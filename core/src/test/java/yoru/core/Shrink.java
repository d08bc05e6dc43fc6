package yoru.core;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import yoru.core.rulebook.Link;

/** Runs a property over a world; where it fails, looks for less that fails too, and says with which seed. */
public final class Shrink {

    private Shrink() {}

    public static void check(World world, Consumer<World> property) {
        if (failure(world, property) == null) {
            return;
        }
        var small = smaller(world, property);
        var failure = failure(small, property);
        throw new AssertionError(
                "seed %d: %s%n%nrulebook: %s%n%nlinks:%n%s%n%nfacts:%n%s"
                        .formatted(
                                world.seed(),
                                failure == null ? "" : failure.getMessage(),
                                small.rulebook().withLinks(List.of()),
                                small.rulebook().links().stream()
                                        .map(Link::toString)
                                        .collect(Collectors.joining("\n")),
                                small.facts().stream().map(Object::toString).collect(Collectors.joining("\n"))),
                failure);
    }

    private static World smaller(World world, Consumer<World> property) {
        var small = world;
        for (boolean again = true; again; ) {
            again = false;
            for (int at = small.facts().size() - 1; at >= 0; at--) {
                var facts = new ArrayList<>(small.facts());
                facts.remove(at);
                if (failure(small.withFacts(facts), property) != null) {
                    small = small.withFacts(facts);
                    again = true;
                }
            }
            for (int at = small.rulebook().links().size() - 1; at >= 0; at--) {
                var links = new ArrayList<>(small.rulebook().links());
                links.remove(at);
                var without = small.withRulebook(small.rulebook().withLinks(links));
                if (failure(without, property) != null) {
                    small = without;
                    again = true;
                }
            }
        }
        return small;
    }

    private static Throwable failure(World world, Consumer<World> property) {
        try {
            property.accept(world);
            return null;
        } catch (AssertionError | RuntimeException e) {
            return e;
        }
    }
}
