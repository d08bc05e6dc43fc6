package yoru.server.accounts;

import com.nulabinc.zxcvbn.Zxcvbn;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.TooManyException;

/**
 * What passwords may be, and their hashes. Trying one is dear on purpose: as many are tried at the same time as there are
 * processors, the others wait their turn, and nobody waits for one with a connection to the database in hand.
 */
@Component
class Passwords {

    /** OWASP ASVS 5.0, 6.2.1 asks for at least 8, and recommends 15. */
    static final int SHORTEST = 10;

    /** bcrypt reads no further. */
    private static final int LONGEST_BYTES = 72;

    /** The best of zxcvbn's five, "very unguessable": 10^10 guesses, as many as ten letters by chance take. */
    private static final int GOOD_ENOUGH = 4;

    private static final Duration LONGEST_WAIT = Duration.ofSeconds(8);

    private final PasswordEncoder encoder;
    private final Zxcvbn estimate = new Zxcvbn();
    private final Semaphore atOnce =
            new Semaphore(Math.max(2, Runtime.getRuntime().availableProcessors()), true);
    private final SchoolSettings settings;

    /** Made beside the start, which need not wait for it. */
    private final CompletableFuture<String> nobodysHash;

    Passwords(PasswordEncoder encoder, SchoolSettings settings) {
        this.encoder = encoder;
        this.settings = settings;
        this.nobodysHash =
                CompletableFuture.supplyAsync(() -> String.valueOf(encoder.encode("nobody has this password")));
    }

    /**
     * Refuses what is soon guessed: what many use, what is made of it, of keys side by side or of the words that stand all
     * around (NIST SP 800-63B-4, 3.1.1.2).
     *
     * @param whose their name and address, which others know too
     */
    void check(String password, String... whose) {
        if (password.length() < SHORTEST || password.getBytes(StandardCharsets.UTF_8).length > LONGEST_BYTES) {
            throw refused(
                    "It must have at least %d characters and at most %d bytes.".formatted(SHORTEST, LONGEST_BYTES));
        }
        var around = Stream.concat(Stream.of("yoru", settings.name()), Stream.of(whose))
                .flatMap(words -> Stream.concat(Stream.of(words), Stream.of(words.split("[^\\p{L}\\p{N}]+"))))
                .map(word -> word.toLowerCase(Locale.ROOT))
                .filter(word -> word.length() > 2)
                .distinct()
                .toList();
        // zxcvbn takes what stands between two words for as hard to guess as a third word
        var joined = password.replaceAll("[\\s_.-]+", "");
        if (Stream.of(password, joined)
                .anyMatch(it -> estimate.measure(it, around).getScore() < GOOD_ENOUGH)) {
            throw refused(
                    "It is soon guessed: many use it or what it is made of, or it says who you are or where this is."
                            + " Take several words that have nothing to do with each other.");
        }
    }

    private static ProblemException refused(String why) {
        return new ProblemException(HttpStatus.BAD_REQUEST, "This password cannot be used", why);
    }

    String hash(String password) {
        return inTurn(() -> String.valueOf(encoder.encode(password)));
    }

    /** @param hash none = nobody's; it takes as long as somebody's */
    boolean matches(String password, @Nullable String hash) {
        return inTurn(() -> {
            boolean matches = encoder.matches(password, hash == null ? nobodysHash.join() : hash);
            return matches && hash != null;
        });
    }

    private <T> T inTurn(Supplier<T> work) {
        try {
            if (!atOnce.tryAcquire(LONGEST_WAIT.toMillis(), TimeUnit.MILLISECONDS)) {
                throw new TooManyException("Too many are signing in at this moment.", Duration.ofSeconds(10));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new TooManyException("The server is stopping.", Duration.ofSeconds(10));
        }
        try {
            return work.get();
        } finally {
            atOnce.release();
        }
    }
}
