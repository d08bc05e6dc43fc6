package yoru.server.school;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Duration;
import java.util.Optional;
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
        NOTHING
    }

    /** What this server answers where it is asked. */
    String answer(String challenge) {
        return signed.sign(PURPOSE, challenge);
    }

    Outcome of(String address) {
        var challenge = SecretCode.make().text();
        try {
            var answer = http.send(
                    HttpRequest.newBuilder(URI.create(address + PATH + challenge))
                            .timeout(PATIENCE)
                            .build(),
                    BodyHandlers.limiting(BodyHandlers.ofString(), 1000));
            return signed.read(PURPOSE, answer.body()).equals(Optional.of(challenge))
                    ? Outcome.REACHED
                    : Outcome.SOMETHING_ELSE;
        } catch (IOException e) {
            return Outcome.NOTHING;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Outcome.NOTHING;
        }
    }
}
