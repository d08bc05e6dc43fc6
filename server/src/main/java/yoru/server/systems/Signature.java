package yoru.server.systems;

import com.standardwebhooks.Webhook;
import com.standardwebhooks.exceptions.EmptyWebhookSecretException;
import com.standardwebhooks.exceptions.WebhookSigningException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * How a report is signed (Standard Webhooks 1.0). The library signs; its own check goes by this machine's clock, and a
 * server whose clock is wrong would turn away whatever it is told.
 *
 * @param sent the value of {@code webhook-timestamp}, seconds since 1970
 * @param given the values of {@code webhook-signature}, parted by spaces
 */
record Signature(String id, String sent, String given) {

    /** As the standard's own libraries have it. */
    private static final Duration TOLERANCE = Duration.ofMinutes(5);

    /** @param headers a request's, by name in lower case */
    static Signature of(Map<String, List<String>> headers) {
        return new Signature(
                first(headers, "webhook-id"), first(headers, "webhook-timestamp"), first(headers, "webhook-signature"));
    }

    private static String first(Map<String, List<String>> headers, String name) {
        return headers.getOrDefault(name, List.of()).stream().findFirst().orElse("");
    }

    /**
     * What is wrong with it; nothing if it is right.
     *
     * @param body as it came
     */
    Optional<String> fault(String secret, String body, Instant now) {
        if (id.isEmpty() || sent.isEmpty() || given.isEmpty()) {
            return Optional.of("it is not signed");
        }
        long at;
        try {
            at = Long.parseLong(sent);
        } catch (NumberFormatException e) {
            return Optional.of("it does not say when it was signed");
        }
        if (at < now.minus(TOLERANCE).getEpochSecond()) {
            return Optional.of("it was signed more than five minutes ago");
        }
        if (at > now.plus(TOLERANCE).getEpochSecond()) {
            return Optional.of("it was signed in the future");
        }
        try {
            var wanted = bytes(new Webhook(secret).sign(id, at, body));
            return Arrays.stream(given.split(" ")).anyMatch(one -> MessageDigest.isEqual(wanted, bytes(one)))
                    ? Optional.empty()
                    : Optional.of("its signature is another one");
        } catch (EmptyWebhookSecretException | WebhookSigningException e) {
            return Optional.of("the secret that is agreed is of no use");
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }
}
