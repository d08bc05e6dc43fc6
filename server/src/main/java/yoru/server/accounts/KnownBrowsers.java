package yoru.server.accounts;

import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import yoru.server.platform.SecretCode;
import yoru.server.platform.SignedTexts;

/**
 * Browsers from which somebody has signed in, so that others who guess at their address do not hold them up. What is left
 * in the browser lets nobody in.
 */
@Component
class KnownBrowsers {

    private static final String PURPOSE = "browser";

    private final SignedTexts signed;

    KnownBrowsers(SignedTexts signed) {
        this.signed = signed;
    }

    /** What to leave in a browser from which somebody has just signed in. */
    String mark(UUID operator) {
        return signed.sign(PURPOSE, operator + " " + SecretCode.make().text());
    }

    /** By which a browser is known, where this account has signed in from it before. */
    Optional<String> of(@Nullable String mark, UUID operator) {
        return Optional.ofNullable(mark)
                .flatMap(text -> signed.read(PURPOSE, text))
                .filter(text -> text.startsWith(operator + " "));
    }
}
