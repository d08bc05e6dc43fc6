package yoru.server.systems;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** As Standard Webhooks 1.0 says: HMAC-SHA256 (RFC 2104) over id, timestamp and body, parted by full stops. */
class SignatureTests {

    private static final String KEY = Base64.getEncoder().encodeToString("a key of twenty-four byt".getBytes());
    private static final String SECRET = "whsec_" + KEY;
    private static final String BODY = "{\"type\": \"yoru.order.paid\"}";
    /** Not today: it goes by the clock that it is given, and not by this machine's. */
    private static final Instant SIGNED = Instant.parse("2025-03-01T10:00:00Z");

    private static Map<String, List<String>> headers(String sent, String... given) {
        return new HashMap<>(Map.of(
                "webhook-id", List.of("msg-1"),
                "webhook-timestamp", List.of(sent),
                "webhook-signature", List.of(String.join(" ", given))));
    }

    private static String signature(String id, long at, String body) throws Exception {
        var mac = Mac.getInstance("HmacSHA256");
        mac.init(new SecretKeySpec(Base64.getDecoder().decode(KEY), "HmacSHA256"));
        return "v1," + Base64.getEncoder().encodeToString(mac.doFinal((id + "." + at + "." + body).getBytes()));
    }

    private static String right() throws Exception {
        return signature("msg-1", SIGNED.getEpochSecond(), BODY);
    }

    private static Map<String, List<String>> rightHeaders() throws Exception {
        return headers(String.valueOf(SIGNED.getEpochSecond()), right());
    }

    @ParameterizedTest
    @ValueSource(longs = {-300, 0, 300})
    void isGoodForFiveMinutesEitherWay(long later) throws Exception {
        assertThat(Signature.of(rightHeaders()).fault(SECRET, BODY, SIGNED.plusSeconds(later)))
                .isEmpty();
    }

    @Test
    void isOldOrOfTheFuture() throws Exception {
        var signature = Signature.of(rightHeaders());
        assertThat(signature.fault(SECRET, BODY, SIGNED.plusSeconds(301)))
                .contains("it was signed more than five minutes ago");
        assertThat(signature.fault(SECRET, BODY, SIGNED.minusSeconds(301))).contains("it was signed in the future");
    }

    @Test
    void isOneOfSeveral() throws Exception {
        var several = headers(String.valueOf(SIGNED.getEpochSecond()), "v1a,b3RoZXI=", "v1,b3RoZXI=", right());
        assertThat(Signature.of(several).fault(SECRET, BODY, SIGNED)).isEmpty();
    }

    @Test
    void isOfThisBodyThisIdAndThisSecretOnly() throws Exception {
        var signature = Signature.of(rightHeaders());
        assertThat(signature.fault(SECRET, BODY + " ", SIGNED)).contains("its signature is another one");
        assertThat(signature.fault("whsec_" + Base64.getEncoder().encodeToString(new byte[24]), BODY, SIGNED))
                .contains("its signature is another one");
        assertThat(new Signature("msg-2", signature.sent(), signature.given()).fault(SECRET, BODY, SIGNED))
                .contains("its signature is another one");
        assertThat(new Signature("msg-1", String.valueOf(SIGNED.getEpochSecond() + 1), right())
                        .fault(SECRET, BODY, SIGNED))
                .contains("its signature is another one");
    }

    @ParameterizedTest
    @ValueSource(strings = {"webhook-id", "webhook-timestamp", "webhook-signature"})
    void isNoneWhereAHeaderIsMissing(String missing) throws Exception {
        var headers = rightHeaders();
        headers.remove(missing);
        assertThat(Signature.of(headers).fault(SECRET, BODY, SIGNED)).contains("it is not signed");
    }

    @ParameterizedTest
    @ValueSource(strings = {"yesterday", "1e9", "9223372036854775807", "-9223372036854775808", "99999999999999999999"})
    void isNoneWhereTheTimeIsNoTime(String sent) throws Exception {
        assertThat(Signature.of(headers(sent, right())).fault(SECRET, BODY, SIGNED))
                .isPresent();
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " ", "v1", ",", "v1,", "g0hM9SsE"})
    void isNoneWhereItIsNoSignature(String given) {
        assertThat(Signature.of(headers(String.valueOf(SIGNED.getEpochSecond()), given))
                        .fault(SECRET, BODY, SIGNED))
                .isPresent();
    }
}
