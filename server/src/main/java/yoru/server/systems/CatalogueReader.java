package yoru.server.systems;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.core.systems.Ability;

/** Reads the catalogues of the connected systems, every few minutes and when asked. */
@Service
public class CatalogueReader {

    private static final Logger LOG = LoggerFactory.getLogger(CatalogueReader.class);
    private static final Duration EVERY = Duration.ofMinutes(2);

    private final Connections connections;
    private final Catalogue catalogue;
    private final Connectors connectors;
    private final TransactionTemplate transaction;

    CatalogueReader(
            Connections connections, Catalogue catalogue, Connectors connectors, TransactionTemplate transaction) {
        this.connections = connections;
        this.catalogue = catalogue;
        this.connectors = connectors;
        this.transaction = transaction;
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
        connections.all().stream().filter(Connection::isOn).forEach(this::read);
    }

    /** @return why it could not be read; the last one read is kept then */
    public Optional<String> read(Connection connection) {
        var connector = connectors.of(connection);
        if (!connector.abilities().contains(Ability.CATALOGUE)) {
            return Optional.empty();
        }
        try {
            var listing = connector.catalogue(connections.place(connection));
            transaction.executeWithoutResult(status -> {
                catalogue.take(connection.id(), listing);
                connections.catalogueRead(connection.id(), Optional.empty());
            });
            return Optional.empty();
        } catch (TroubleException e) {
            LOG.info("No catalogue from {}: {}", connection.id(), e.words());
            connections.catalogueRead(connection.id(), Optional.of(e.words()));
            return Optional.of(e.words());
        }
    }
}
