package yoru.server.accounts;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SecretCode;
import yoru.server.platform.Secrets;
import yoru.server.platform.Sha256;

/**
 * A second factor: codes of an authenticator application (RFC 6238: six digits of HMAC-SHA-1, thirty seconds each, as
 * those applications have it), and ten to write down for when it is lost. Each code is good once.
 */
@Service
public class SecondFactors {

    private static final Duration STEP = Duration.ofSeconds(30);
    private static final int SECRET_BYTES = 20; // RFC 4226, 4, R6 recommends 160 bits
    private static final int SPARE_CODES = 10;
    private static final int SPARE_LENGTH = 10;
    private static final SecureRandom RANDOM = new SecureRandom();

    private final Operators operators;
    private final Secrets secrets;
    private final Journal journal;
    private final SchoolSettings settings;
    private final Clock clock;
    private final TimeBasedOneTimePasswordGenerator codes = new TimeBasedOneTimePasswordGenerator(STEP, 6);

    SecondFactors(Operators operators, Secrets secrets, Journal journal, SchoolSettings settings, Clock clock) {
        this.operators = operators;
        this.secrets = secrets;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
    }

    /** The code of the second factor is missing or wrong; the password was right. */
    static final class Asked extends ProblemException {

        private static final long serialVersionUID = 1;

        Asked(HttpStatus status) {
            super(
                    status,
                    "The second factor is needed",
                    "Enter the code that your authenticator shows now, or one of those you wrote down.",
                    Map.of("secondFactor", true));
        }
    }

    /**
     * A factor that is not in force yet.
     *
     * @param secret in Base32 (RFC 4648), to be typed into the authenticator
     * @param address the same as an address that authenticators open
     * @param picture the same to be looked at by a telephone
     */
    record Begun(String secret, String address, QrPicture picture) {}

    boolean isWanted(Operator operator) {
        return operator.factorSince != null;
    }

    /** Makes a secret; it counts once a code made with it was entered. */
    @Transactional
    public Begun begin(SignedIn who) {
        var operator = operators.lock(who);
        if (isWanted(operator)) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "There is one already", "Remove the second factor before you make another.");
        }
        var secret = new byte[SECRET_BYTES];
        RANDOM.nextBytes(secret);
        var text = new Base32().encodeToString(secret);
        operator.factorSecret = secrets.lock(text);
        var issuer = encoded(settings.name());
        var address =
                "otpauth://totp/%s:%s?secret=%s&issuer=%s".formatted(issuer, encoded(operator.email), text, issuer);
        return new Begun(text, address, QrPicture.of(address));
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    /** Has it count from now on. @return the codes to write down, shown this once */
    @Transactional
    public List<String> confirm(SignedIn who, String code) {
        var operator = operators.lock(who);
        if (operator.factorSecret == null || isWanted(operator)) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "Nothing to confirm", "Begin again: there is no new second factor.");
        }
        if (!isNow(operator, code)) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This code is not the one",
                    "Enter the six digits that the authenticator shows now; the clocks of both must agree.");
        }
        operator.factorSince = clock.instant();
        var spare = IntStream.range(0, SPARE_CODES)
                .mapToObj(_ -> SecretCode.readable(SPARE_LENGTH))
                .toList();
        operator.spareCodes = String.join(" ", spare.stream().map(Sha256::of).toList());
        note("Has a second factor", operator, who.name());
        return spare;
    }

    /** Removes it, of oneself or, where somebody has lost it, by an owner. */
    @Transactional
    public void remove(UUID id, SignedIn by) {
        var operator = operators.known(id);
        operator.factorSecret = null;
        operator.factorSince = null;
        operator.spareCodes = null;
        operator.factorStep = 0;
        note("Has no second factor any more", operator, by.name());
    }

    /** Whether a code is good, which it then is no longer. */
    @Transactional
    public boolean accept(Operator seen, String code) {
        var operator = operators.lockById(seen.id).orElseThrow();
        return isNow(operator, code) || isSpare(operator, code);
    }

    /** Of now, or of the step before or after, for clocks differ (RFC 6238, 5.2); never one that was used, or an older one. */
    private boolean isNow(Operator operator, String code) {
        var digits = code.replace(" ", "");
        if (operator.factorSecret == null || !digits.matches("\\d{6}")) {
            return false;
        }
        var key = new SecretKeySpec(new Base32().decode(secrets.open(operator.factorSecret)), codes.getAlgorithm());
        long now = clock.instant().getEpochSecond() / STEP.toSeconds();
        for (long step = now - 1; step <= now + 1; step++) {
            if (step > operator.factorStep && isEqual(at(key, step), digits)) {
                operator.factorStep = step;
                return true;
            }
        }
        return false;
    }

    private String at(SecretKeySpec key, long step) {
        try {
            return codes.generateOneTimePasswordString(
                    key, Instant.ofEpochSecond(step * STEP.toSeconds()), Locale.ROOT);
        } catch (InvalidKeyException e) {
            throw new IllegalStateException(e);
        }
    }

    private static boolean isSpare(Operator operator, String code) {
        var hash = Sha256.of(code.strip().toUpperCase(Locale.ROOT));
        var left = operator.spareCodes == null ? List.<String>of() : List.of(operator.spareCodes.split(" "));
        if (!left.contains(hash)) {
            return false;
        }
        operator.spareCodes =
                String.join(" ", left.stream().filter(it -> !it.equals(hash)).toList());
        return true;
    }

    /** How many of the codes that were written down are left. */
    static int spareLeft(Operator operator) {
        return operator.spareCodes == null
                ? 0
                : (int) Stream.of(operator.spareCodes.split(" "))
                        .filter(it -> !it.isEmpty())
                        .count();
    }

    private static boolean isEqual(String one, String other) {
        return MessageDigest.isEqual(one.getBytes(StandardCharsets.UTF_8), other.getBytes(StandardCharsets.UTF_8));
    }

    private void note(String what, Operator operator, String by) {
        journal.write(new Journal.Line(Kind.OPERATOR, what, operator.email, by, null, null));
    }
}
