package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.cloudevents.core.builder.CloudEventBuilder;
import io.cloudevents.jackson.JsonFormat;
import java.math.BigDecimal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening.OrderPlaced;

class FactReaderTests {

    private static final String PLACED = """
            {"specversion":"1.0","id":"e1","source":"shop","type":"yoru.order.placed","subject":"ada@post.example",
             "time":"2026-03-01T10:00:00Z","data":{"order":"O1","channel":"shop","currency":"EUR","note":"kept",
             "lines":[{"line":"1","product":"QUEEN","quantity":2,"amount":"180.00"}]}}""";

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    /** Written by the CloudEvents Java SDK 4.0.1, as an independent writer of the format. */
    @Test
    void readsWhatTheCloudEventsSdkWrites() {
        var time = Instant.parse("2026-03-01T10:00:00.5Z");
        var event = CloudEventBuilder.v1()
                .withId("e-1")
                .withSource(URI.create("https://shop.example/"))
                .withType("yoru.order.refunded")
                .withSubject("zoë@post.example")
                .withTime(time.atOffset(ZoneOffset.ofHours(2)))
                .withData("application/json", bytes("{\"order\":\"O1\",\"amount\":\"1.50\"}"))
                .build();
        var fact = FactReader.read(new JsonFormat().serialize(event));
        assertThat(fact.id()).isEqualTo(new FactId("https://shop.example/", "e-1"));
        assertThat(fact.subject()).isEqualTo("zoë@post.example");
        assertThat(fact.time()).isEqualTo(Instant.parse("2026-03-01T10:00:00.5Z"));
    }

    @Test
    void readsAnOrder() {
        var placed = (OrderPlaced) FactReader.read(bytes(PLACED)).happening();
        assertThat(placed.lines()).singleElement().satisfies(line -> {
            assertThat(line.quantity()).isEqualTo(2);
            assertThat(line.amount()).isEqualTo(new BigDecimal("180.00"));
        });
    }

    @Test
    void whatComesAnewHasNoQuantityThatNobodyCanHaveMeant() {
        var many = FactReader.parse(bytes(PLACED.replace("\"quantity\":2", "\"quantity\":10001")));
        assertThatThrownBy(() -> FactReader.readNew(many))
                .isInstanceOfSatisfying(
                        UnreadableException.class,
                        e -> assertThat(e.faults())
                                .singleElement()
                                .isEqualTo(new Fault("data.lines[0].quantity", "must be 10000 at most")));
        assertThat(FactReader.read(many)).as("what is kept already is read").isNotNull();
        assertThat(FactReader.readNew(FactReader.parse(bytes(PLACED)))).isNotNull();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "\"180.00\"|180.00|data.lines[0].amount|decimal in text",
                "\"180.00\"|\"ten\"|data.lines[0].amount|decimal in text",
                "\"180.00\"|\"-1.00\"|data.lines[0].amount|not be negative",
                "\"180.00\"|\"1e9\"|data.lines[0].amount|decimal in text",
                ",\"amount\":\"180.00\"|``|data.lines[0].amount|is missing",
                "\"quantity\":2|\"quantity\":0|data.lines[0].quantity|whole number",
                "EUR|EURO|data.currency|ISO 4217",
                "\"channel\":\"shop\"|\"channel\":\"web\"|data.channel|[shop, hand]",
                "2026-03-01T10:00:00Z|1 March|time|offset",
                "2026-03-01T10:00:00Z|+12026-03-01T10:00:00Z|time|offset",
                "\"1.0\"|\"0.3\"|specversion|must be",
                "\"subject\":\"ada@post.example\",|``|subject|is missing",
                "\"id\":\"e1\"|\"id\":\" \"|id|is empty",
                "\"lines\":[{|\"lines\":[{\"line\":\"1\",\"product\":\"A\",\"amount\":\"1\"},{|data.lines[1].line|twice",
            })
    void namesTheFieldAtFault(String good, String bad, String field, String problem) {
        assertThatThrownBy(() -> FactReader.read(bytes(PLACED.replace(good, bad))))
                .isInstanceOfSatisfying(
                        UnreadableException.class,
                        unreadable -> assertThat(unreadable.faults())
                                .singleElement()
                                .satisfies(fault -> {
                                    assertThat(fault.field()).isEqualTo(field);
                                    assertThat(fault.problem()).contains(problem);
                                }));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"{\"a\":|not JSON", "[1]|not a CloudEvent", "''|empty", "7|not a CloudEvent"})
    void saysWhenItIsNoEventAtAll(String body, String problem) {
        assertThatThrownBy(() -> FactReader.read(bytes(body)))
                .isInstanceOf(UnreadableException.class)
                .hasMessageContaining(problem);
    }
}
