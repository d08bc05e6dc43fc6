package yoru.server.accounts;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.Locale;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;

/** Makes operators and lets them in. */
@Service
public class Accounts {

    /** OWASP ASVS 5.0, 6.2.1 asks for at least 8, and recommends 15. */
    static final int SHORTEST_PASSWORD = 10;

    /** bcrypt reads no further. */
    private static final int LONGEST_PASSWORD_BYTES = 72;

    private final Operators operators;
    private final PasswordEncoder passwords;
    private final Journal journal;
    private final Clock clock;
    private final String nobodysHash;

    Accounts(Operators operators, PasswordEncoder passwords, Journal journal, Clock clock) {
        this.operators = operators;
        this.passwords = passwords;
        this.journal = journal;
        this.clock = clock;
        this.nobodysHash = String.valueOf(passwords.encode("nobody has this password"));
    }

    /** Whether nobody can sign in yet. */
    @Transactional(readOnly = true)
    public boolean isEmpty() {
        return operators.count() == 0;
    }

    /** Makes the owner's account, as long as there is none. */
    @Transactional
    public SignedIn makeOwner(String email, String name, String password) {
        operators.lockAll();
        if (operators.count() > 0) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "There is an owner already", "Sign in with the owner's account instead.");
        }
        if (password.length() < SHORTEST_PASSWORD
                || password.getBytes(StandardCharsets.UTF_8).length > LONGEST_PASSWORD_BYTES) {
            throw new ProblemException(
                    HttpStatus.BAD_REQUEST,
                    "This password cannot be used",
                    "It must have at least %d characters and at most %d bytes."
                            .formatted(SHORTEST_PASSWORD, LONGEST_PASSWORD_BYTES));
        }
        var operator =
                operators.save(new Operator(normal(email), name.strip(), String.valueOf(passwords.encode(password))));
        return new SignedIn(operator.email, operator.name);
    }

    /**
     * Checks a password. Somebody unknown takes as long as somebody known; too many failures lock the account for a
     * while, and the count is kept in the database, so that a second server counts along.
     */
    @Transactional(noRollbackFor = ProblemException.class)
    public SignedIn signIn(String email, String password) {
        Optional<Operator> known = operators.findByEmail(normal(email));
        var now = clock.instant();
        if (known.isPresent() && known.get().isLocked(now)) {
            throw new ProblemException(
                    HttpStatus.TOO_MANY_REQUESTS,
                    "Too many failed tries",
                    "This account is locked for %d minutes.".formatted(Operator.LOCKED_FOR.toMinutes()));
        }
        boolean right = passwords.matches(
                password, known.map(operator -> operator.passwordHash).orElse(nobodysHash));
        if (known.isEmpty() || !right) {
            known.ifPresent(operator -> {
                operator.failed(now);
                journal.gather(Kind.REFUSED, "Sign-in failed", operator.email, operator.email);
            });
            throw new ProblemException(
                    HttpStatus.UNAUTHORIZED, "Not signed in", "No account has this address and password.");
        }
        known.get().succeeded();
        return new SignedIn(known.get().email, known.get().name);
    }

    private static String normal(String email) {
        return email.strip().toLowerCase(Locale.ROOT);
    }
}
