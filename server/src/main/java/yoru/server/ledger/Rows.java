package yoru.server.ledger;

import java.nio.charset.StandardCharsets;
import java.util.Collection;
import java.util.List;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.ledger.Ledger;
import yoru.formats.FactReader;

/** How facts go into rows and come out of them. */
final class Rows {

    private Rows() {}

    static String json(Collection<String> texts) {
        var array = JsonNodeFactory.instance.arrayNode();
        texts.forEach(array::add);
        return array.toString();
    }

    static Ledger ledger(List<String> bodies) {
        return Ledger.of(bodies.stream()
                .map(body -> FactReader.read(body.getBytes(StandardCharsets.UTF_8)))
                .toList());
    }
}
