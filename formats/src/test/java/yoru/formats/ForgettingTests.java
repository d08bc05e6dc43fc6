package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Happening;

class ForgettingTests {

    private static final Forgetting FORGETTING = new Forgetting(
            Map.of("ada@x.example", "erased-1@nobody.invalid", "a.lind@x.example", "erased-2@nobody.invalid"));

    @Test
    void onlyTheWholeAddressIsReplacedHoweverItIsWritten() {
        assertThat(FORGETTING.text("To Ada@X.example, ada@x.example. (A.Lind@x.example)"))
                .isEqualTo("To erased-1@nobody.invalid, erased-1@nobody.invalid. (erased-2@nobody.invalid)");
        assertThat(new Forgetting(Map.of("Member-7$", "erased-3")).text("MEMBER-7$, Member-7$"))
                .as("a key that is no address")
                .isEqualTo("erased-3, erased-3");
        var others = "nada@x.example ada@x.example.org ada@x.examples b+ada@x.example xa.lind@x.example";
        assertThat(FORGETTING.text(others)).isEqualTo(others);
    }

    @Test
    void anOwnEventKeepsWhatTheBooksNeedAndNothingElse() {
        var event = event("""
                {"specversion": "1.0", "id": "import-ada@x.example", "source": "/shop", "type": "yoru.order.placed",
                 "time": "2026-01-01T10:00:00Z", "subject": "ada@x.example",
                 "data": {"order": "7", "channel": "shop", "currency": "EUR", "name": "Ada Lind", "guest": true,
                          "verifiedEmail": "a.lind@x.example", "reason": "for Ada",
                          "lines": [{"line": "1", "product": "P", "amount": "9.00", "giftTo": "ben@x.example"}]}}""");
        var left = FORGETTING.event(event);
        assertThat(left.toString()).doesNotContainIgnoringCase("ada").doesNotContainIgnoringCase("lind");
        var fact = FactReader.read(left);
        assertThat(fact.subject()).isEqualTo("erased-1@nobody.invalid");
        assertThat(fact.time()).isEqualTo("2026-01-01T10:00:00Z");
        assertThat(fact.happening())
                .isInstanceOfSatisfying(
                        Happening.OrderPlaced.class,
                        it -> assertThat(it.lines()).singleElement().satisfies(line -> {
                            assertThat(line.amount()).isEqualByComparingTo("9.00");
                            assertThat(line.giftTo()).contains("ben@x.example");
                        }));
    }

    @Test
    void anothersEventLosesNothingButTheAddress() {
        var event = event("""
                {"specversion": "1.0", "id": "e1", "source": "/shop", "type": "yoru.order.placed",
                 "time": "2026-01-01T10:00:00Z", "subject": "ben@x.example",
                 "data": {"order": "8", "channel": "shop", "currency": "EUR", "name": "Ben Abt",
                          "lines": [{"line": "1", "product": "P", "amount": "9.00", "giftTo": "Ada@x.example"}]}}""");
        assertThat(FORGETTING.event(event).toString())
                .isEqualTo(event.toString().replace("Ada@x.example", "erased-1@nobody.invalid"));
    }

    /** What others wrote, and were written: a name is taken out where it is enough to be taken for nobody else. */
    @Test
    void whatOthersWroteNamesThemNoLonger() {
        var forgetting =
                new Forgetting(Map.of("ada@x.example", "erased-1@nobody.invalid"), List.of("Ada Lind", "Rose"));
        assertThat(forgetting.words("A gift of ADA LIND <ada@x.example>, with a rose and a Lind tree"))
                .isEqualTo("A gift of somebody <erased-1@nobody.invalid>, with a rose and a Lind tree");
        assertThat(forgetting.words("Ada Lindqvist")).isEqualTo("Ada Lindqvist");
        assertThat(forgetting.words()).containsExactlyInAnyOrder("ada@x.example", "Ada Lind");
    }

    private static tools.jackson.databind.JsonNode event(String json) {
        return JsonMapper.shared().readTree(json.getBytes(StandardCharsets.UTF_8));
    }
}
