package yoru.server.deliveries;

import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Component;
import yoru.core.rulebook.Target;
import yoru.core.systems.Matter;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Listed.Thing;

/** Says in words what a delivery is about. */
@Component
class Matters {

    private final Catalogue catalogue;

    Matters(Catalogue catalogue) {
        this.catalogue = catalogue;
    }

    String title(Delivery delivery) {
        return Objects.requireNonNull(titles(List.of(delivery)).get(delivery.id()));
    }

    /** What each is about, by its id. */
    Map<Long, String> titles(Collection<Delivery> deliveries) {
        var things = new HashSet<Catalogue.Where>();
        deliveries.forEach(it -> {
            if (it.matter() instanceof Matter.Access access) {
                Thing.of(access.target()).ifPresent(thing -> things.add(new Catalogue.Where(it.connectionId, thing)));
            }
        });
        var known = catalogue.titles(things);
        Map<Long, String> titles = new HashMap<>();
        deliveries.forEach(it -> titles.put(it.id(), title(it, known)));
        return titles;
    }

    private static String title(Delivery delivery, Map<Catalogue.Where, String> known) {
        return switch (delivery.matter()) {
            case Matter.Account _ -> "account";
            case Matter.Field it -> "field " + it.name();
            case Matter.Letter _ -> "letter";
            case Matter.Event _ -> "event";
            case Matter.Code _ -> "discount code";
            case Matter.Access it -> title(delivery.connectionId, it.target(), known);
        };
    }

    private static String title(String connection, Target target, Map<Catalogue.Where, String> known) {
        var title = Thing.of(target)
                .map(thing -> known.getOrDefault(new Catalogue.Where(connection, thing), thing.id()))
                .orElseGet(target::path);
        return target instanceof Target.OfSection it ? title + ", " + it.section() : title;
    }
}
