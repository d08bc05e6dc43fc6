package yoru.server.systems;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.web.client.RestClientException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import yoru.core.findings.CourseState.Door;
import yoru.server.systems.Catalogue.Listed;
import yoru.server.systems.CatalogueItem.ItemKind;

/** Reads the catalogues of the connected systems, every few minutes and when asked. */
@Service
public class CatalogueReader {

    private static final Logger LOG = LoggerFactory.getLogger(CatalogueReader.class);
    private static final Duration EVERY = Duration.ofMinutes(2);

    private final Connections connections;
    private final Catalogue catalogue;
    private final SystemClient client;

    CatalogueReader(Connections connections, Catalogue catalogue, SystemClient client) {
        this.connections = connections;
        this.catalogue = catalogue;
        this.client = client;
    }

    @Configuration(proxyBeanMethods = false)
    static class Schedule {
        @Bean
        RecurringTask<Void> readCatalogues(CatalogueReader reader) {
            return Tasks.recurring("read-catalogues", FixedDelay.of(EVERY))
                    .execute((task, context) -> reader.readAll());
        }
    }

    public void readAll() {
        connections.all().forEach(this::read);
    }

    /** @return why it could not be read; the last one read is kept then */
    public Optional<String> read(Connection connection) {
        Optional<String> fault;
        try {
            var answer =
                    client.at(connection).get().uri("/catalogue").retrieve().body(JsonNode.class);
            catalogue.take(connection.id(), listing(connection.kind(), answer));
            fault = Optional.empty();
        } catch (RestClientException e) {
            fault = Optional.of("does not answer");
            LOG.info("No catalogue from {}: {}", connection.id(), e.getMessage());
        } catch (JacksonException | IllegalArgumentException e) {
            fault = Optional.of("answered with something that is no catalogue");
            LOG.warn("No catalogue from {}", connection.id(), e);
        }
        connections.catalogueRead(connection.id(), fault);
        return fault;
    }

    private static List<Listed> listing(SystemKind kind, @Nullable JsonNode answer) {
        var listing = new ArrayList<Listed>();
        var key = switch (kind) {
            case SHOP -> "products";
            case CLASSROOM -> "courses";
        };
        if (answer == null || !answer.path(key).isArray()) {
            throw new IllegalArgumentException("no list of " + key);
        }
        for (JsonNode node : answer.get(key)) {
            listing.add(
                    switch (kind) {
                        case SHOP -> product(node);
                        case CLASSROOM -> course(node);
                    });
        }
        return listing;
    }

    private static Listed product(JsonNode node) {
        var details = new Catalogue.ProductDetails(
                new BigDecimal(text(node, "price")),
                text(node, "currency"),
                node.path("thing").asBoolean(false));
        return new Listed(ItemKind.PRODUCT, text(node, "id"), text(node, "title"), text(node, "category"), details);
    }

    private static Listed course(JsonNode node) {
        var sections = new ArrayList<Catalogue.Section>();
        for (JsonNode section : node.path("sections")) {
            sections.add(new Catalogue.Section(text(section, "id"), text(section, "title"), text(section, "tier")));
        }
        var door = switch (text(node, "door")) {
            case "by-enrolment" -> Door.YORU_ONLY;
            case "free-sign-up" -> Door.FREE_SIGN_UP;
            case "open-to-all" -> Door.OPEN_TO_ALL;
            default -> throw new IllegalArgumentException("no such door: " + text(node, "door"));
        };
        var details = new Catalogue.CourseDetails(
                node.path("content").asBoolean(false), node.path("published").asBoolean(false), door, sections);
        return new Listed(ItemKind.COURSE, text(node, "id"), text(node, "title"), text(node, "category"), details);
    }

    private static String text(JsonNode node, String key) {
        if (!node.path(key).isString() || node.get(key).stringValue().isBlank()) {
            throw new IllegalArgumentException("no " + key);
        }
        return node.get(key).stringValue();
    }
}
