package yoru.server.accounts;

import java.time.Clock;
import java.util.Locale;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SecretCode;
import yoru.server.platform.Sha256;

/**
 * Makes the owner's account of a Yoru that nobody has used yet, for whoever has read the code that it writes into its log
 * when it starts: who can read that runs it. Nobody else is told that there is no owner.
 */
@Service
public class FirstVisit {

    private static final Logger LOG = LoggerFactory.getLogger(FirstVisit.class);
    private static final int LENGTH = 20;

    private final Accounts accounts;
    private final Passwords passwords;
    private final FirstCodes codes;
    private final SchoolSettings settings;
    private final Clock clock;

    FirstVisit(Accounts accounts, Passwords passwords, FirstCodes codes, SchoolSettings settings, Clock clock) {
        this.accounts = accounts;
        this.passwords = passwords;
        this.codes = codes;
        this.settings = settings;
        this.clock = clock;
    }

    /** After whatever makes accounts by itself. Each server has a code of its own; any of them is good anywhere, once. */
    @EventListener(ApplicationReadyEvent.class)
    @Order
    @Transactional
    public void announce() {
        if (!accounts.isEmpty()) {
            return;
        }
        var code = SecretCode.readable(LENGTH);
        codes.save(new FirstCode(Sha256.of(code), clock.instant()));
        LOG.warn(
                "Nobody can sign in yet. Make the owner's account: {}/first with the code {}",
                settings.publicAddress(),
                code);
    }

    /** @throws ProblemException where the code is not good, or is no longer; it does not say which */
    SignedIn makeOwner(String code, String email, String name, String password) {
        check(code);
        passwords.check(password, email, name);
        return accounts.makeOwner(email, name, passwords.hash(password));
    }

    private void check(String code) {
        var plain = code.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "");
        if (!codes.existsById(Sha256.of(plain)) || !accounts.isEmpty()) {
            throw new ProblemException(
                    HttpStatus.FORBIDDEN,
                    "This code is not good",
                    "The code stands in the words with which Yoru was started, and is good until somebody has used it.");
        }
    }
}
