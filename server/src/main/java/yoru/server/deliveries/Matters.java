package yoru.server.deliveries;

import org.springframework.stereotype.Component;
import yoru.core.rulebook.Target;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Matter;

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
            case Matter.Letter _ -> "letter";
            case Matter.Event _ -> "event";
            case Matter.Access it -> title(delivery.connectionId, it.target());
        };
    }

    private String title(String connection, Target target) {
        return switch (target) {
            case Target.OfCourse it -> title(connection, ItemKind.COURSE, it.course());
            case Target.OfGroup it -> title(connection, ItemKind.GROUP, it.group());
            case Target.OfArea it -> title(connection, ItemKind.AREA, it.area());
            case Target.OfDownload it -> title(connection, ItemKind.DOWNLOAD, it.download());
            case Target.OfList it -> title(connection, ItemKind.LIST, it.list());
            case Target.OfTag it -> title(connection, ItemKind.TAG, it.tag());
            case Target.OfSection it -> title(connection, ItemKind.COURSE, it.course()) + ", " + it.section();
            case Target.OfLevel it -> it.level();
        };
    }

    private String title(String connection, ItemKind kind, String id) {
        return catalogue.title(connection, kind, id).orElse(id);
    }
}
