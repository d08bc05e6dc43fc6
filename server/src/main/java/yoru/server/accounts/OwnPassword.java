package yoru.server.accounts;

import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import yoru.server.platform.ProblemException;

/** Changes one's own password. */
@Service
class OwnPassword {

    private final SignIns signIns;
    private final Passwords passwords;
    private final PasswordChange change;

    OwnPassword(SignIns signIns, Passwords passwords, PasswordChange change) {
        this.signIns = signIns;
        this.passwords = passwords;
        this.change = change;
    }

    /**
     * @param present their password until now (OWASP ASVS 5.0, 6.2.3)
     * @return with what they go on
     */
    SignedIn change(SignedIn who, String present, String next, SignIns.From from) {
        passwords.check(next, who.email(), who.name());
        var operator = signIns.checked(who.email(), present, from)
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.UNPROCESSABLE_CONTENT,
                        "The password was not changed",
                        "Your password until now is another one."));
        return change.set(operator.id, passwords.hash(next));
    }
}
