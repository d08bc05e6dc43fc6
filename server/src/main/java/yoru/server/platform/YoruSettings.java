package yoru.server.platform;

import java.nio.file.Path;
import java.time.Duration;
import java.time.Period;
import java.time.ZoneId;
import java.util.Currency;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * What an installation sets, under {@code yoru.*}.
 *
 * @param key encrypts secrets at rest: 32 bytes in hexadecimal; losing it means entering the secrets again
 * @param formerKeys still open what they have locked, the oldest last
 * @param publicAddress under which people outside reach this server, as name, zone and currency of the school: until its
 *     owner says so (SchoolSettings)
 * @param proxies the addresses of the machines before this server that say from where and by which protocol a request
 *     came; nobody else is believed. A single "none" says that nothing stands before it
 * @param insideAllowed networks inside Yoru's own that systems may be in, as CIDR; none = addresses outside only
 * @param folder below which systems without an interface have their folders; none = there are none
 * @param erasedList a file of who was erased, by digests, apart from the database: a backup from before knows them still; none =
 *     it is not kept
 * @param checkEvery how often systems are looked at for what is out of step
 * @param readFoldersEvery how often the folders are looked at for files
 * @param keepJournal how long lines of the journal are kept, in whole months; empty = for ever
 * @param passwordCost of bcrypt: each more doubles the time that trying a password takes; a good value is 12
 * @param metricsPort of this machine only, on which the metrics are and nothing else; none = they are not served
 * @param securityContact to whom somebody writes who has found a hole, as {@code mailto:} or {@code https:}; none = it is not
 *     said
 * @param demoSignIn how to sign in at the invented school, shown to everybody; none = this is a real school
 */
@ConfigurationProperties("yoru")
public record YoruSettings(
        String key,
        @DefaultValue({}) List<String> formerKeys,
        @DefaultValue("Your school") String schoolName,
        @DefaultValue("Europe/Dublin") ZoneId zone,
        @DefaultValue("EUR") Currency currency,
        @DefaultValue("http://127.0.0.1:8410") String publicAddress,
        @DefaultValue({}) List<String> proxies,
        @DefaultValue({}) List<String> insideAllowed,
        @Nullable Path folder,
        @Nullable Path erasedList,
        @DefaultValue("6h") Duration checkEvery,
        @DefaultValue("15s") Duration readFoldersEvery,
        @DefaultValue("P3Y") @Nullable Period keepJournal,
        @DefaultValue("12") int passwordCost,
        @Nullable Integer metricsPort,
        @Nullable String securityContact,
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
     * @param settle how long something that was not answered may still take effect there
     * @param restAfterFailures how long a system is left alone that fails at almost everything
     * @param atOnce how many things one system is told at the same time, by one server
     */
    public record Delivery(
            @DefaultValue("1s") Duration firstPause,
            @DefaultValue("15m") Duration longestPause,
            @DefaultValue("24h") Duration giveUpAfter,
            @DefaultValue("10s") Duration timeout,
            @DefaultValue("1m") Duration settle,
            @DefaultValue("10s") Duration restAfterFailures,
            @DefaultValue("4") int atOnce) {}
}
