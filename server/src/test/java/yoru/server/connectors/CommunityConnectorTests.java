package yoru.server.connectors;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.function.Function;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.Target;
import yoru.core.systems.Matter;
import yoru.server.ServerTest;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.Listed;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** The SCIM connector against the RFCs' own example messages (written from memory), and against a server gone wrong. */
@ServerTest
class CommunityConnectorTests {

    /** RFC 7643, 8.2 and 8.4, shortened; wrapped as RFC 7644, 3.4.2 answers a query. */
    private static final String BJENSEN = """
            {"schemas": ["urn:ietf:params:scim:api:messages:2.0:ListResponse"], "totalResults": 1,
             "Resources": [{
               "schemas": ["urn:ietf:params:scim:schemas:core:2.0:User"], "id": "2819c223-7f76-453a-919d-413861904646",
               "externalId": "701984", "userName": "bjensen@example.com",
               "name": {"formatted": "Ms. Barbara J Jensen, III", "familyName": "Jensen", "givenName": "Barbara"},
               "emails": [{"value": "bjensen@example.com", "type": "work", "primary": true}], "active": true,
               "groups": [
                 {"value": "e9e30dba-f08f-4109-8486-d5c6a331660a", "$ref": "https://example.com/v2/Groups/e9e30dba-f08f-4109-8486-d5c6a331660a", "display": "Tour Guides"},
                 {"value": "queen-talk", "$ref": "https://example.com/v2/Areas/queen-talk", "display": "Queens"}],
               "meta": {"resourceType": "User", "version": "W/\\"a330bc54f0671c9\\""}}]}""";

    /** RFC 7644, 3.4.2: where nothing is found there need be no Resources. */
    private static final String NOBODY = """
            {"schemas": ["urn:ietf:params:scim:api:messages:2.0:ListResponse"], "totalResults": 0}""";

    private record Asked(String method, String path, String body) {}

    @Autowired
    private Connectors connectors;

    private HttpServer server;
    private final List<Asked> asked = new CopyOnWriteArrayList<>();
    private Function<HttpExchange, Answer> answers = exchange -> new Answer(200, NOBODY, Map.of());

    private record Answer(int status, String body, Map<String, String> headers) {}

    @BeforeEach
    void start() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 20);
        server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
        server.createContext("/v2", exchange -> {
            var body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            asked.add(new Asked(
                    exchange.getRequestMethod(), exchange.getRequestURI().toString(), body));
            var answer = answers.apply(exchange);
            answer.headers.forEach(
                    (name, value) -> exchange.getResponseHeaders().add(name, value));
            var bytes = answer.body.getBytes(StandardCharsets.UTF_8);
            exchange.sendResponseHeaders(answer.status, bytes.length == 0 ? -1 : bytes.length);
            try (var out = exchange.getResponseBody()) {
                out.write(bytes);
            }
        });
        server.start();
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    @Test
    void aMemberIsAddedAndRemovedAsTheStandardWritesIt() {
        answers = exchange -> exchange.getRequestMethod().equals("PATCH")
                ? new Answer(204, "", Map.of())
                : new Answer(200, BJENSEN, Map.of());
        assertThat(tell(new Target.OfGroup("acbf3ae7-8463-4692-b4fd-9b4da3f908ce"), true))
                .isEqualTo("in it");
        assertThat(tell(new Target.OfGroup("acbf3ae7-8463-4692-b4fd-9b4da3f908ce"), false))
                .isEqualTo("no longer in it");
        var patches = asked.stream().filter(it -> it.method.equals("PATCH")).toList();
        assertThat(patches)
                .allSatisfy(it -> assertThat(it.path).isEqualTo("/v2/Groups/acbf3ae7-8463-4692-b4fd-9b4da3f908ce"));
        // RFC 7644, 3.5.2.1 and 3.5.2.2, the examples with members
        assertThat(JsonMapper.shared().readTree(patches.get(0).body))
                .isEqualTo(JsonMapper.shared().readTree("""
                {"schemas": ["urn:ietf:params:scim:api:messages:2.0:PatchOp"],
                 "Operations": [{"op": "add", "path": "members", "value": [{"value": "2819c223-7f76-453a-919d-413861904646"}]}]}"""));
        assertThat(JsonMapper.shared().readTree(patches.get(1).body))
                .isEqualTo(JsonMapper.shared().readTree("""
                {"schemas": ["urn:ietf:params:scim:api:messages:2.0:PatchOp"],
                 "Operations": [{"op": "remove", "path": "members[value eq \\"2819c223-7f76-453a-919d-413861904646\\"]"}]}"""));
        assertThat(asked.getFirst().path).startsWith("/v2/Users?filter=userName%20eq%20%22bjensen%40example.com%22");
    }

    @Test
    void whoIsInWhatIsReadFromTheUsers() {
        answers = exchange -> new Answer(200, BJENSEN, Map.of());
        var part = connector().list(place(), null);
        assertThat(part.next()).isEmpty();
        assertThat(part.found())
                .extracting(Connector.Found::target)
                .containsExactly(
                        new Target.OfGroup("e9e30dba-f08f-4109-8486-d5c6a331660a"), new Target.OfArea("queen-talk"));
    }

    /** RFC 7643, 8.7.1: a group's $ref is not required. */
    @Test
    void whereTheAddressOfAGroupIsLeftOutTheCatalogueSaysWhatItIs() {
        var withoutAddresses = BJENSEN.replaceAll("\"\\$ref\": \"[^\"]*\", ", "");
        answers = exchange -> {
            var uri = exchange.getRequestURI().toString();
            if (uri.contains("/ResourceTypes")) {
                return new Answer(200, "{\"totalResults\": 1, \"Resources\": [{\"endpoint\": \"/Areas\"}]}", Map.of());
            }
            if (uri.contains("/Areas") && uri.contains("startIndex=1&")) {
                return new Answer(
                        200,
                        "{\"totalResults\": 1, \"Resources\": [{\"id\": \"queen-talk\", \"displayName\": \"Queens\"}]}",
                        Map.of());
            }
            return new Answer(200, uri.contains("/Users") ? withoutAddresses : NOBODY, Map.of());
        };
        assertThat(connector().list(place(), null).found())
                .extracting(Connector.Found::target)
                .containsExactly(
                        new Target.OfGroup("e9e30dba-f08f-4109-8486-d5c6a331660a"), new Target.OfArea("queen-talk"));
    }

    @Test
    void anErrorIsToldAsTheStandardSaysIt() {
        // RFC 7644, 3.12
        answers = exchange -> new Answer(400, """
                {"schemas": ["urn:ietf:params:scim:api:messages:2.0:Error"], "scimType": "mutability",
                 "detail": "Attribute 'id' is readOnly", "status": "400"}""", Map.of());
        assertTrouble(() -> tell(new Target.OfGroup("g"), true), Trouble.REFUSED, "Attribute 'id' is readOnly");
    }

    @Test
    void somebodyElseMadeTheAccountInBetween() {
        answers = exchange -> exchange.getRequestMethod().equals("POST")
                ? new Answer(409, "{\"scimType\": \"uniqueness\", \"status\": \"409\"}", Map.of())
                : new Answer(200, NOBODY, Map.of());
        assertThat(connector()
                        .tell(
                                place(),
                                new Statement(
                                        "bjensen@example.com",
                                        "B",
                                        new Matter.Account(),
                                        true,
                                        null,
                                        false,
                                        1,
                                        "k",
                                        null)))
                .isEqualTo("has an account");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    {"totalResults": "many"}
                    {"totalResults": 3, "Resources": {"id": "x"}}
                    {"totalResults": 1, "Resources": [{"id": 7, "userName": "bjensen@example.com"}]}
                    []
                    <html>Welcome!</html>""")
    void answersOfTheWrongKindAreToldAndNothingIsDone(String body) {
        answers = exchange -> new Answer(200, body, Map.of());
        assertTrouble(() -> tell(new Target.OfGroup("g"), true), Trouble.UNREADABLE, "answered with something");
        assertThat(asked).extracting(Asked::method).containsOnly("GET");
    }

    @Test
    void aListWithoutEndIsLeft() {
        var page = new StringBuilder("{\"totalResults\": 1, \"Resources\": [");
        for (int i = 0; i < 100; i++) {
            page.append(i == 0 ? "" : ",").append("{\"id\": \"g").append(i).append("\", \"displayName\": \"G\"}");
        }
        answers = exchange -> new Answer(200, page + "]}", Map.of());
        assertTrouble(() -> connector().catalogue(place()), Trouble.UNREADABLE, "without end");
        assertThat(asked.size()).isLessThan(200);
    }

    @Test
    void itIsNotFollowedElsewhereAndNotReadWithoutBounds() {
        answers = exchange -> new Answer(302, "", Map.of("Location", "http://169.254.169.254/latest"));
        assertTrouble(() -> connector().catalogue(place()), Trouble.SENT_ELSEWHERE, "answered 302");
        answers = exchange -> new Answer(200, " ".repeat(9 * 1024 * 1024), Map.of());
        assertTrouble(() -> connector().catalogue(place()), Trouble.UNREADABLE, "more than 8 MB");
        answers = exchange -> new Answer(200, "[".repeat(200_000), Map.of());
        assertTrouble(() -> connector().catalogue(place()), Trouble.UNREADABLE, "cannot be read");
    }

    @Test
    void areasAreListedOnlyWhereTheSystemAnnouncesThem() {
        var groups = """
                {"totalResults": 1, "Resources": [{"id": "g1", "displayName": "Tour Guides"}]}""";
        answers = exchange -> {
            var uri = exchange.getRequestURI().toString();
            return new Answer(
                    200, uri.contains("/Groups") && uri.contains("startIndex=1&") ? groups : NOBODY, Map.of());
        };
        assertThat(connector().catalogue(place())).extracting(Listed::title).containsExactly("Tour Guides");
        assertThat(asked).extracting(Asked::path).noneMatch(path -> path.contains("/Areas"));
    }

    private void assertTrouble(
            org.assertj.core.api.ThrowableAssert.ThrowingCallable act, Trouble trouble, String words) {
        assertThatThrownBy(act).isInstanceOfSatisfying(TroubleException.class, e -> {
            assertThat(e.trouble()).isEqualTo(trouble);
            assertThat(e.words()).contains(words);
        });
    }

    private String tell(Target target, boolean open) {
        return connector()
                .tell(
                        place(),
                        new Statement(
                                "bjensen@example.com",
                                "B",
                                new Matter.Access(target),
                                open,
                                null,
                                false,
                                1,
                                "key",
                                null));
    }

    private Connector connector() {
        return connectors.of(SystemKind.COMMUNITY);
    }

    private Place place() {
        return new Place(
                "c",
                "C",
                SystemKind.COMMUNITY,
                "http://127.0.0.1:" + server.getAddress().getPort() + "/v2",
                "token",
                List.of(),
                Map.of());
    }
}
