package yoru.server.deliveries;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yoru.core.access.HowLong;
import yoru.core.systems.Matter;
import yoru.server.platform.SecretCode;

class DeliveryTests {

    /** Whoever reads the database later is let in nowhere by what was sent. */
    @ParameterizedTest
    @ValueSource(strings = {"claim", "seats", "mine", "letters", "confirm"})
    void whatWasSentKeepsNoCodes(String where) {
        var delivery = new Delivery("mailbox", 1, new Matter.Letter("l"), 0, Instant.EPOCH);
        var code = SecretCode.make().text();
        delivery.want(
                true,
                HowLong.ALWAYS,
                "{\"text\": \"Here: https://yoru.example/%s/%s.\\n\\nHollow Oak\"}".formatted(where, code),
                null,
                Instant.EPOCH);
        delivery.forgetCodes();
        assertThat(delivery.content)
                .doesNotContain(code)
                .contains("Here: https://yoru.example/" + where + "/…")
                .endsWith("Hollow Oak\"}");
    }
}
