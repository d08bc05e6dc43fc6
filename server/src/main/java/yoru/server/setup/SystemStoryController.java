package yoru.server.setup;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.deliveries.DeliveryList;
import yoru.server.journal.Journal;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connections;
import yoru.server.systems.Listed;

/** What one system has and said lately. */
@RestController
class SystemStoryController {

    private static final Duration LOOKED_BACK = Duration.ofDays(30);
    private static final int LATEST = 8;

    private final Connections connections;
    private final DeliveryList deliveries;
    private final Catalogue catalogue;
    private final Journal journal;
    private final Clock clock;

    SystemStoryController(
            Connections connections, DeliveryList deliveries, Catalogue catalogue, Journal journal, Clock clock) {
        this.connections = connections;
        this.deliveries = deliveries;
        this.catalogue = catalogue;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * What a system has and said.
     *
     * @param lists how many things of each kind it lists
     * @param latest what it was told last and what it answered
     * @param troubles what went wrong within thirty days, by kind, the most frequent first
     */
    record Story(Map<Listed.ItemKind, Integer> lists, List<DeliveryList.Said> latest, List<Journal.Trouble> troubles) {}

    @GetMapping("/api/systems/{id}/story")
    Story story(@PathVariable String id) {
        var connection = connections.get(id);
        return new Story(
                catalogue.counts().getOrDefault(id, Map.of()),
                deliveries.latest(id, LATEST),
                journal.troubles(id, connection.title(), clock.instant().minus(LOOKED_BACK)));
    }
}
