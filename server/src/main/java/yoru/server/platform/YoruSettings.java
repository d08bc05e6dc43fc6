package yoru.server.platform;

import java.time.Duration;
import java.time.ZoneId;
import java.util.Currency;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.School;

/**
 * What an installation sets, under {@code yoru.*}.
 *
 * @param key encrypts secrets at rest: 32 bytes in hexadecimal; losing it means entering the secrets again
 * @param demoSignIn how to sign in at the invented school, shown to everybody; none = this is a real school
 */
@ConfigurationProperties("yoru")
public record YoruSettings(
        String key,
        @DefaultValue("Hollow Oak Bee School") String schoolName,
        @DefaultValue("Europe/Dublin") ZoneId zone,
        @DefaultValue("EUR") Currency currency,
        @Nullable SignIn demoSignIn,
        @DefaultValue Delivery delivery) {

    /** An account for everybody to use. */
    public record SignIn(String email, String password) {}

    /**
     * How deliveries are tried.
     *
     * @param firstPause before the second try; it doubles from then on
     * @param longestPause where it stops doubling
     * @param giveUpAfter since the first failure
     * @param timeout for an answer
     */
    public record Delivery(
            @DefaultValue("1s") Duration firstPause,
            @DefaultValue("15m") Duration longestPause,
            @DefaultValue("24h") Duration giveUpAfter,
            @DefaultValue("10s") Duration timeout) {}

    public School school() {
        return new School(zone, currency, OpensOn.PAID);
    }
}
