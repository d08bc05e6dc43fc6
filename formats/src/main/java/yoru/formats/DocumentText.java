package yoru.formats;

import java.util.List;
import org.snakeyaml.engine.v2.api.LoadSettings;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.dataformat.yaml.YAMLFactory;
import tools.jackson.dataformat.yaml.YAMLMapper;

/** A document as it stands in a file: YAML 1.2 or JSON. */
final class DocumentText {

    /** A hundred thousand links are some ten megabytes; the parser's own limit is three. */
    private static final int LARGEST = 64 << 20;

    private static final YAMLMapper YAML = YAMLMapper.builder(YAMLFactory.builder()
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .loadSettings(
                            LoadSettings.builder().setCodePointLimit(LARGEST).build())
                    .build())
            .build();
    private static final JsonMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .build())
            .build();

    private DocumentText() {}

    /** @throws UnreadableException where it is neither */
    static JsonNode read(String document) {
        try {
            return tree(document);
        } catch (JacksonException e) {
            var at = e.getLocation();
            var place = at == null || at.getLineNr() < 1 ? "" : "line " + at.getLineNr();
            throw new UnreadableException(
                    List.of(new Fault(place, "not YAML or JSON: " + firstLine(e.getOriginalMessage()))));
        }
    }

    static String yaml(JsonNode document) {
        return YAML.writeValueAsString(document);
    }

    /** JSON may be indented with tabs, which YAML forbids; what only begins like JSON can still be YAML. */
    private static JsonNode tree(String document) {
        if (document.stripLeading().startsWith("{")) {
            try {
                return JSON.readTree(document);
            } catch (JacksonException e) {
                // said below, if YAML has something to say too
            }
        }
        return YAML.readTree(document);
    }

    private static String firstLine(String text) {
        return text.lines().findFirst().orElse("");
    }
}
