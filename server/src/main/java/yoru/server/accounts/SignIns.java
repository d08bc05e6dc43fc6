package yoru.server.accounts;

import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialRequestOptions;
import org.springframework.stereotype.Service;
import tools.jackson.databind.JsonNode;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.Origins;
import yoru.server.platform.ProblemException;

/**
 * Lets operators in. Whoever guesses hears the same of addresses that somebody has and that nobody has, as slowly, and is
 * held back alike. Nothing here holds a connection to the database while a password is tried.
 */
@Service
public class SignIns {

    private final Operators operators;
    private final Passwords passwords;
    private final SignInPauses pauses;
    private final SecondFactors factors;
    private final Passkeys passkeys;
    private final KnownBrowsers browsers;
    private final Journal journal;

    SignIns(
            Operators operators,
            Passwords passwords,
            SignInPauses pauses,
            SecondFactors factors,
            Passkeys passkeys,
            KnownBrowsers browsers,
            Journal journal) {
        this.operators = operators;
        this.passwords = passwords;
        this.pauses = pauses;
        this.factors = factors;
        this.passkeys = passkeys;
        this.browsers = browsers;
        this.journal = journal;
    }

    /**
     * Where somebody signs in from.
     *
     * @param origin the address of their machine
     * @param browser what {@link KnownBrowsers} left in their browser
     */
    public record From(String origin, @Nullable String browser) {

        /** As what it is counted. */
        String place() {
            return Origins.place(origin);
        }
    }

    /**
     * @param code of their second factor, where they have one
     * @throws ProblemException 401 where it is not them, {@link SecondFactors.Asked} where the code is missing
     */
    SignedIn signIn(String email, String password, @Nullable String code, From from) {
        var normal = normal(email);
        var operator = checked(normal, password, from).orElseThrow(SignIns::notSignedIn);
        if (factors.isWanted(operator)) {
            if (code == null || code.isBlank()) {
                throw new SecondFactors.Asked(HttpStatus.UNAUTHORIZED);
            }
            if (!factors.accept(operator, code)) {
                failed(normal, from, "The second factor was wrong", operator);
                throw new SecondFactors.Asked(HttpStatus.UNAUTHORIZED);
            }
        }
        pauses.succeeded(normal, asker(from, operator));
        journal.write(new Journal.Line(
                Kind.OPERATOR, "Signed in", operator.email + " · " + from.origin, operator.name, null, null));
        return operator.signedIn();
    }

    /**
     * Has somebody who is signed in prove that it is still them: their password, and the second factor where they have one.
     */
    void confirm(SignedIn who, String password, @Nullable String code, From from) {
        var operator = checked(who.email(), password, from)
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.UNPROCESSABLE_CONTENT, "It was not confirmed", "Your password is another one."));
        if (factors.isWanted(operator) && (code == null || !factors.accept(operator, code))) {
            if (code != null && !code.isBlank()) {
                failed(who.email(), from, "The second factor was wrong", operator);
            }
            throw new SecondFactors.Asked(HttpStatus.UNPROCESSABLE_CONTENT);
        }
        pauses.succeeded(who.email(), asker(from, operator));
    }

    /** By a passkey, which is two factors in one. Nobody can guess one, so nobody waits. */
    SignedIn signIn(PublicKeyCredentialRequestOptions asked, JsonNode shown, From from) {
        var who = passkeys.accept(asked, shown).orElseThrow(() -> {
            refused(from);
            return new ProblemException(
                    HttpStatus.UNAUTHORIZED, "Not signed in", "This passkey is not one of an account here.");
        });
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Signed in",
                who.email() + " · " + from.origin + " · with a passkey",
                who.name(),
                null,
                null));
        return who;
    }

    /** Has somebody who is signed in prove by a passkey of theirs that it is still them. */
    void confirm(SignedIn who, PublicKeyCredentialRequestOptions asked, JsonNode shown, From from) {
        if (passkeys.accept(asked, shown)
                .filter(it -> it.email().equals(who.email()))
                .isEmpty()) {
            refused(from);
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT, "It was not confirmed", "This passkey is not one of yours.");
        }
    }

    private void refused(From from) {
        journal.gather(Kind.REFUSED, "A passkey was refused", from.origin, from.place());
    }

    /** Who has a password. */
    Optional<Operator> checked(String email, String password, From from) {
        var known = operators.findByEmail(email).orElse(null);
        pauses.check(email, asker(from, known));
        if (passwords.matches(password, known == null ? null : known.passwordHash)) {
            return Optional.ofNullable(known);
        }
        failed(email, from, "Signing in failed", known);
        return Optional.empty();
    }

    private void failed(String email, From from, String what, @Nullable Operator known) {
        pauses.failed(email, asker(from, known));
        // of addresses that nobody has, anybody could fill the journal with
        journal.gather(
                Kind.REFUSED,
                what,
                (known == null ? "an address that nobody has" : known.email) + " · " + from.origin,
                known == null ? from.place() : known.email);
    }

    private SignInPauses.Asker asker(From from, @Nullable Operator operator) {
        var browser =
                operator == null ? null : browsers.of(from.browser, operator.id).orElse(null);
        return new SignInPauses.Asker(from.place(), browser);
    }

    private static ProblemException notSignedIn() {
        return new ProblemException(
                HttpStatus.UNAUTHORIZED, "Not signed in", "No account has this address and password.");
    }

    static String normal(String email) {
        return email.strip().toLowerCase(Locale.ROOT);
    }
}
