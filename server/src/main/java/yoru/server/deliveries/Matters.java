package yoru.server.deliveries;

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
        return switch (delivery.matter()) {
            case Matter.Account _ -> "account";
            case Matter.Field it -> "field " + it.name();
            case Matter.Letter _ -> "letter";
            case Matter.Event _ -> "event";
            case Matter.Code _ -> "discount code";
            case Matter.Access it -> title(delivery.connectionId, it.target());
        };
    }

    private String title(String connection, Target target) {
        var title = Thing.of(target)
                .map(thing -> catalogue.title(connection, thing).orElse(thing.id()))
                .orElseGet(target::path);
        return target instanceof Target.OfSection it ? title + ", " + it.section() : title;
    }
}
