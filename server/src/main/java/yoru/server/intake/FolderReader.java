package yoru.server.intake;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import yoru.formats.UnreadableException;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector.Inbox;
import yoru.server.systems.Connectors;
import yoru.server.systems.TroubleException;

/** Looks for files that systems without an interface have put down. One server at a time does it. */
@Service
class FolderReader {

    private static final Logger LOG = LoggerFactory.getLogger(FolderReader.class);

    private final Connections connections;
    private final Connectors connectors;
    private final HandedOver handedOver;
    private final Journal journal;

    FolderReader(Connections connections, Connectors connectors, HandedOver handedOver, Journal journal) {
        this.connections = connections;
        this.connectors = connectors;
        this.handedOver = handedOver;
        this.journal = journal;
    }

    @Configuration(proxyBeanMethods = false)
    static class Schedule {
        @Bean
        RecurringTask<Void> readFolders(FolderReader reader, YoruSettings settings) {
            return Tasks.recurring("read-folders", FixedDelay.of(settings.readFoldersEvery()))
                    .execute((task, context) -> reader.readAll());
        }
    }

    void readAll() {
        for (Connection connection : connections.all()) {
            if (connection.state() == Connection.State.OFF) {
                continue;
            }
            try {
                connectors
                        .of(connection)
                        .inbox(connections.place(connection))
                        .ifPresent(inbox -> inbox.waiting().forEach(name -> read(connection, inbox, name)));
            } catch (TroubleException e) {
                LOG.info("The folder of {} {}", connection.id(), e.words());
            }
        }
    }

    private void read(Connection connection, Inbox inbox, String name) {
        try {
            inbox.done(
                    name,
                    handedOver
                            .take(connection, name, inbox.read(name), connection.id())
                            .toMend());
        } catch (UnreadableException e) {
            var why = Intake.inWords(e.faults());
            inbox.refused(name, why);
            journal.write(new Journal.Line(
                    Kind.WARNING,
                    "A file could not be read",
                    connection.title() + ", " + name + ": " + why,
                    connection.id(),
                    null,
                    null));
        }
    }
}
