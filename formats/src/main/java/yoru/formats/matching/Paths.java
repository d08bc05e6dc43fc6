package yoru.formats.matching;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.jayway.jsonpath.Configuration;
import com.jayway.jsonpath.EvaluationListener;
import com.jayway.jsonpath.JsonPath;
import com.jayway.jsonpath.JsonPathException;
import com.jayway.jsonpath.Option;
import com.jayway.jsonpath.spi.json.JacksonJsonNodeJsonProvider;
import com.jayway.jsonpath.spi.mapper.JacksonMappingProvider;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Pattern;

/**
 * JSONPath (RFC 9535), evaluated by Jayway JsonPath. That library is older than the RFC; taken is what both understand
 * alike: names, indices, slices, wildcards, descendants by name, and one comparison as a filter.
 */
final class Paths {

    private static final String NAME = "[\\p{L}_\\x{80}-\\x{10FFFF}][\\p{L}\\p{N}_\\x{80}-\\x{10FFFF}]*";
    private static final String QUOTED = "'(?:[^'\\\\]|\\\\.)*'|\"(?:[^\"\\\\]|\\\\.)*\"";
    private static final String LITERAL = QUOTED + "|-?\\d+(?:\\.\\d+)?|true|false|null";
    private static final String FILTER =
            "\\[\\?\\s*@((?:\\." + NAME + ")+)\\s*(==|!=|<=|>=|<|>)\\s*(" + LITERAL + ")\\s*]";
    private static final Pattern FILTERS = Pattern.compile(FILTER);
    private static final Pattern PATH = Pattern.compile("\\$(?:\\.\\.?" + NAME
            + "|\\.\\*|\\[(?:\\*|-?\\d+|(?:-?\\d+)?:(?:-?\\d+)?|" + QUOTED + ")]|" + FILTER + ")*");
    private static final int LONGEST = 500;

    /** Each looks at everything below everything that the one before has found. */
    private static final int MOST_DESCENTS = 2;

    private static final int DEEPEST = 30;

    /** No report has so many of anything that it means. */
    private static final int MOST_FOUND = 10_000;

    private static final Pattern DESCENT = Pattern.compile(QUOTED + "|(\\.\\.)");

    private static final ObjectMapper JSON = new ObjectMapper(com.fasterxml.jackson.core.JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .maxNumberLength(60)
                            .build())
                    .build())
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS);

    private static final Configuration CONFIGURATION = Configuration.builder()
            .jsonProvider(new JacksonJsonNodeJsonProvider(JSON))
            .mappingProvider(new JacksonMappingProvider(JSON))
            .options(Option.ALWAYS_RETURN_LIST, Option.SUPPRESS_EXCEPTIONS)
            .build();

    private Paths() {}

    /** What is wrong with an expression, if anything. */
    static Optional<String> fault(String path) {
        if (path.length() > LONGEST || !PATH.matcher(path).matches()) {
            return Optional.of("is no JSONPath that is understood here, such as $.buyer.mail or $.items[*].code");
        }
        long descents = DESCENT.matcher(path)
                .results()
                .filter(found -> found.group(1) != null)
                .count();
        if (descents > MOST_DESCENTS) {
            return Optional.of("looks everywhere below (..) more than twice; name what is between");
        }
        try {
            JsonPath.compile(asTheLibraryWants(path));
            return Optional.empty();
        } catch (JsonPathException e) {
            return Optional.of("is no JSONPath");
        }
    }

    /** @return none where it is no JSON, or nested beyond all sense */
    static Optional<JsonNode> document(String text) {
        try {
            var node = JSON.readTree(text);
            return node == null || node.isMissingNode() ? Optional.empty() : Optional.of(node);
        } catch (JsonProcessingException e) {
            return Optional.empty();
        }
    }

    /** The nodes that a path selects, in the document's order; none where it selects nothing. */
    static List<JsonNode> select(JsonNode document, String path) {
        var left = new AtomicInteger(MOST_FOUND);
        var counting = CONFIGURATION.addEvaluationListeners(found -> left.decrementAndGet() < 0
                ? EvaluationListener.EvaluationContinuation.ABORT
                : EvaluationListener.EvaluationContinuation.CONTINUE);
        JsonNode found = JsonPath.using(counting).parse(document).read(asTheLibraryWants(path));
        var nodes = new ArrayList<JsonNode>();
        found.forEach(nodes::add);
        return nodes;
    }

    /** RFC 9535 writes {@code [?@.a == 1]}, the library {@code [?(@.a == 1)]}. */
    private static String asTheLibraryWants(String path) {
        return FILTERS.matcher(path).replaceAll("[?(@$1 $2 $3)]");
    }
}
