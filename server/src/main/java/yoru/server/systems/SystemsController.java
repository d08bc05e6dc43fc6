package yoru.server.systems;

import java.security.Principal;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;

@RestController
class SystemsController {

    private final Connections connections;
    private final CatalogueReader reader;
    private final Journal journal;

    SystemsController(Connections connections, CatalogueReader reader, Journal journal) {
        this.connections = connections;
        this.reader = reader;
        this.journal = journal;
    }

    /** @param fault why the catalogue could not be read */
    record CatalogueRead(@Nullable String fault) {}

    /** Reads a system's catalogue now. */
    @PostMapping("/api/systems/{id}/catalogue")
    CatalogueRead read(@PathVariable String id, @AuthenticationPrincipal Principal operator) {
        var connection = connections.find(id).orElseThrow(() -> ProblemException.notFound("No system " + id + "."));
        var fault = reader.read(connection);
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Catalogue read again",
                connection.title() + fault.map(said -> ": " + said).orElse(""),
                operator.getName(),
                null,
                null));
        return new CatalogueRead(fault.orElse(null));
    }
}
