package yoru.server.rulebooks;

import java.util.List;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import yoru.formats.RulebookDocument;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;

/** Brings rulebooks into force, one after the other. */
@Service
public class Publishes {

    private final RulebookVersions versions;
    private final Journal journal;
    private final ApplicationEventPublisher events;

    Publishes(RulebookVersions versions, Journal journal, ApplicationEventPublisher events) {
        this.versions = versions;
        this.journal = journal;
        this.events = events;
    }

    /** Until the transaction ends nobody else publishes, on any server; reading goes on. */
    @Transactional
    public void holdBackOthers() {
        versions.lockAll();
    }

    /** @param document what comes into force; refused where it could not be read again */
    @Transactional
    public void keep(Publish publish, Reach reach, JsonNode document) {
        RulebookDocument.read(document);
        var version = new RulebookVersion();
        version.number = publish.number();
        version.document = document.toString();
        version.note = publish.note();
        version.publishedBy = publish.by();
        version.publishedAt = publish.at();
        version.difference = String.join("\n", publish.difference());
        version.gained = publish.gained();
        version.lost = publish.lost();
        version.otherEnd = publish.otherEnd();
        version.despite = String.join("\n", publish.despite());
        version.despiteWhy = publish.why();
        version.reach = reach;
        versions.save(version);
        journal.write(new Journal.Line(
                Kind.PUBLISHED,
                "Rulebook " + publish.number() + " published",
                publish.note().isEmpty() ? String.join("; ", publish.difference()) : publish.note(),
                publish.by(),
                null,
                null));
        events.publishEvent(new RulebookPublished(publish.number()));
    }

    /** The latest first. */
    @Transactional(readOnly = true)
    public List<Publish> history() {
        return versions.findAllByOrderByNumberDesc().stream()
                .map(RulebookVersion::publish)
                .toList();
    }
}
