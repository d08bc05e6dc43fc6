package yoru.server.school;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodySubscribers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicBoolean;
import javax.net.ssl.SSLException;
import org.springframework.stereotype.Component;
import yoru.server.platform.SecretCode;
import yoru.server.platform.SignedTexts;

/**
 * Whether an address leads to this Yoru: it is asked there for something that only a server with the same key can answer. That
 * and no more is said of what stands at an address.
 */
@Component
class Reach {

    static final String PATH = "/reached/";

    private static final String PURPOSE = "reached";
    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final int LONGEST = 1000;

    private final SignedTexts signed;
    private final HttpClient http = HttpClient.newBuilder()
            .connectTimeout(PATIENCE)
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();

    Reach(SignedTexts signed) {
        this.signed = signed;
    }

    enum Outcome {
        REACHED,
        /** Something answers there, but not this Yoru. */
        SOMETHING_ELSE,
        /** Something is there, but what it says of who it is (TLS) is not believed here. */
        NOT_TRUSTED,
        NOTHING
    }

    /** What this server answers where it is asked. */
    String answer(String challenge) {
        return signed.sign(PURPOSE, challenge);
    }

    Outcome of(String address) {
        var challenge = SecretCode.make().text();
        var question = HttpRequest.newBuilder(URI.create(address + PATH + challenge))
                .timeout(PATIENCE)
                .build();
        var answers = new AtomicBoolean();
        var asked = http.sendAsync(question, head -> {
            answers.set(true);
            return BodySubscribers.limiting(BodySubscribers.ofString(StandardCharsets.UTF_8), LONGEST);
        });
        try {
            var body = asked.get(2 * PATIENCE.toSeconds(), TimeUnit.SECONDS).body();
            return signed.read(PURPOSE, body).equals(Optional.of(challenge)) ? Outcome.REACHED : Outcome.SOMETHING_ELSE;
        } catch (ExecutionException e) {
            return e.getCause() instanceof SSLException ? Outcome.NOT_TRUSTED : brokenOff(answers.get());
        } catch (TimeoutException e) {
            asked.cancel(true);
            return brokenOff(answers.get());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Outcome.NOTHING;
        }
    }

    /** Whatever has begun to answer, and goes on for too long, is not this Yoru. */
    private static Outcome brokenOff(boolean answers) {
        return answers ? Outcome.SOMETHING_ELSE : Outcome.NOTHING;
    }
}
