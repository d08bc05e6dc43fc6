package yoru.server.accounts;

import java.time.Clock;
import java.time.Duration;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SecretCode;

/** Codes with which people set a password that nobody else has ever known. */
@Service
public class PasswordCodes {

    private final PasswordCodeTable table;
    private final Operators operators;
    private final Passwords passwords;
    private final PasswordChange change;
    private final SignInPauses pauses;
    private final Clock clock;

    PasswordCodes(
            PasswordCodeTable table,
            Operators operators,
            Passwords passwords,
            PasswordChange change,
            SignInPauses pauses,
            Clock clock) {
        this.table = table;
        this.operators = operators;
        this.passwords = passwords;
        this.change = change;
        this.pauses = pauses;
        this.clock = clock;
    }

    /** Whether somebody is written to who asks, or for whom somebody else does: not again and again. */
    @Transactional
    public boolean isTimeForALetter(String email) {
        return pauses.takeALetter(SignIns.normal(email));
    }

    /** A new code; those made for them before are good no longer. */
    @Transactional
    public SecretCode make(UUID operator, Duration goodFor) {
        table.deleteByOperatorId(operator);
        var code = SecretCode.make();
        table.save(new PasswordCode(code.hash(), operator, clock.instant().plus(goodFor)));
        return code;
    }

    /** Sets the password of whoever the code was made for. Their second factor is asked for when they sign in. */
    public void set(String code, String password) {
        var known = table.findById(new SecretCode(code).hash())
                .filter(row -> row.until.isAfter(clock.instant()))
                .flatMap(row -> operators.findById(row.operatorId))
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.FORBIDDEN,
                        "This address is no longer good",
                        "It was used already, or too much time has passed. Ask for another."));
        passwords.check(password, known.email, known.name);
        change.set(known.id, passwords.hash(password));
    }
}
