package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.json.JsonMapper;

/** The published description is the server's own; the browser's types are made from it. */
@ServerTest
class ApiDescriptionTests {

    private static final Path PUBLISHED = Path.of("..", "docs", "formats", "api.json");

    @Autowired
    private TestSchool school;

    /** Where this fails and the change is meant: run with {@code YORU_WRITE_API=yes}, which writes it anew. */
    @Test
    void whatIsPublishedIsWhatIsServed() throws IOException {
        var served = JsonMapper.shared()
                .writerWithDefaultPrettyPrinter()
                .writeValueAsString(Operator.signedIn(school).read("/v3/api-docs"));
        if ("yes".equals(System.getenv("YORU_WRITE_API"))) {
            Files.writeString(PUBLISHED, served + "\n");
        }
        assertThat(Files.readString(PUBLISHED)).isEqualToIgnoringNewLines(served + "\n");
        assertThat(served).contains("\"openapi\" : \"3.1.0\"");
    }
}
