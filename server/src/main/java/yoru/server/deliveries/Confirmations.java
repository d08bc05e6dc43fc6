package yoru.server.deliveries;

import java.time.Clock;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.rulebook.Target;
import yoru.core.systems.Landscape;
import yoru.core.systems.Matter;
import yoru.server.systems.Landscapes;
import yoru.server.systems.Trouble;

/** How far the systems have confirmed what they were told. */
@Service
public class Confirmations {

    private final DeliveryTable table;
    private final Landscapes landscapes;
    private final Clock clock;

    Confirmations(DeliveryTable table, Landscapes landscapes, Clock clock) {
        this.table = table;
        this.landscapes = landscapes;
        this.clock = clock;
    }

    /** Whether the systems that somebody would be told of have confirmed that they let them in. */
    public enum Confirmation {
        /** All have; or none is to be told. */
        CONFIRMED,
        /** One has not answered yet, or is switched off. */
        WAITING,
        /** One has not taken it for ten minutes, or it was given up. */
        REFUSED
    }

    /** How far the systems have confirmed that a person has something. */
    @Transactional(readOnly = true)
    public Confirmation of(long person, Target target) {
        return of(Map.of(person, List.of(target))).of(person, target);
    }

    /** How far the systems have confirmed what people have. */
    @Transactional(readOnly = true)
    public Confirmed of(Map<Long, List<Target>> things) {
        Map<About, Confirmation> all = new HashMap<>();
        if (!things.isEmpty()) {
            var landscape = landscapes.current();
            var told = told(things);
            things.forEach((person, targets) -> targets.forEach(target -> {
                var about = new About(person, matter(target));
                all.put(about, of(target, told.getOrDefault(about, List.of()), landscape));
            }));
        }
        return (person, target) -> Objects.requireNonNull(all.get(new About(person, matter(target))));
    }

    /** How far the systems have confirmed what was asked for. */
    @FunctionalInterface
    public interface Confirmed {
        Confirmation of(long person, Target target);
    }

    private record About(long person, String matter) {}

    private Map<About, List<Delivery>> told(Map<Long, List<Target>> things) {
        var matters = things.values().stream()
                .flatMap(targets -> targets.stream().map(Confirmations::matter))
                .collect(Collectors.toSet());
        return table.findByPersonIdInAndMatterIn(things.keySet(), matters).stream()
                .collect(Collectors.groupingBy(delivery -> new About(delivery.personId, delivery.matter)));
    }

    private Confirmation of(Target target, List<Delivery> deliveries, Landscape landscape) {
        var told = landscape.toldOf(target);
        if (told.isEmpty()) {
            return landscape.isOnlyListedWhereOff(target) ? Confirmation.WAITING : Confirmation.CONFIRMED;
        }
        return told.stream()
                .map(system -> deliveries.stream()
                        .filter(delivery -> delivery.connectionId.equals(system.id()))
                        .findFirst()
                        .map(this::of)
                        .orElse(Confirmation.WAITING))
                .max(Comparator.naturalOrder())
                .orElseThrow();
    }

    private static String matter(Target target) {
        return new Matter.Access(target).path();
    }

    /** A system may refuse for a moment what it takes a little later: an account that is only being made, say. */
    private Confirmation of(Delivery delivery) {
        return switch (delivery.status) {
            case ANSWERED -> delivery.open ? Confirmation.CONFIRMED : Confirmation.REFUSED;
            case WAITING ->
                delivery.trouble == Trouble.REFUSED
                                && delivery.failingSince != null
                                && delivery.failingSince.isBefore(
                                        clock.instant().minus(DeliveryFigures.LONG))
                        ? Confirmation.REFUSED
                        : Confirmation.WAITING;
            case GIVEN_UP -> Confirmation.REFUSED;
        };
    }
}
