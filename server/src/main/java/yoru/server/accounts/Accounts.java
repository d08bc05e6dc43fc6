package yoru.server.accounts;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
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
    /** Made beside the start, which need not wait for it. */
    private final CompletableFuture<String> nobodysHash;

    Accounts(Operators operators, PasswordEncoder passwords, Journal journal, Clock clock) {
        this.operators = operators;
        this.passwords = passwords;
        this.journal = journal;
        this.clock = clock;
        this.nobodysHash =
                CompletableFuture.supplyAsync(() -> String.valueOf(passwords.encode("nobody has this password")));
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
        var owner = make(email, name, password, Role.OWNER);
        owner.told = true;
        return owner.signedIn();
    }

    private Operator make(String email, String name, String password, Role role) {
        return operators.save(new Operator(normal(email), name.strip(), hash(password), role));
    }

    private String hash(String password) {
        if (password.length() < SHORTEST_PASSWORD
                || password.getBytes(StandardCharsets.UTF_8).length > LONGEST_PASSWORD_BYTES) {
            throw new ProblemException(
                    HttpStatus.BAD_REQUEST,
                    "This password cannot be used",
                    "It must have at least %d characters and at most %d bytes."
                            .formatted(SHORTEST_PASSWORD, LONGEST_PASSWORD_BYTES));
        }
        return String.valueOf(passwords.encode(password));
    }

    /**
     * Somebody who works with Yoru.
     *
     * @param told whether they read what follow-ups tell the team
     */
    public record Member(UUID id, String email, String name, Role role, boolean told) {}

    @Transactional(readOnly = true)
    public List<Member> team() {
        return operators.findAllByOrderByName().stream().map(Accounts::member).toList();
    }

    /** The addresses of those who read what follow-ups tell the team. */
    @Transactional(readOnly = true)
    public List<String> told() {
        return operators.findAllByOrderByName().stream()
                .filter(operator -> operator.told)
                .map(operator -> operator.email)
                .toList();
    }

    /**
     * What somebody may do now; nothing where they no longer work with Yoru, or have another password since. Asked at
     * every request.
     */
    @Transactional(readOnly = true)
    public Optional<Role> roleOf(SignedIn who) {
        return operators.roleOf(who.email(), who.passwordStamp());
    }

    /** Whether somebody may now do what a role may. */
    @Transactional(readOnly = true)
    public boolean isAtLeast(SignedIn who, Role role) {
        return roleOf(who).filter(has -> has.isAtLeast(role)).isPresent();
    }

    /** Lets somebody else work with Yoru. */
    @Transactional
    public Member add(String email, String name, String password, Role role, SignedIn owner) {
        operators.lockAll();
        if (operators.findByEmail(normal(email)).isPresent()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "They are here already", normal(email) + " works with Yoru already.");
        }
        var operator = make(email, name, password, role);
        note("Added to the team", operator, owner);
        return member(operator);
    }

    /** Changes what somebody may do, at once. */
    @Transactional
    public Member change(UUID id, Role role, SignedIn owner) {
        operators.lockAll();
        var operator = known(id);
        if (operator.role == Role.OWNER && role != Role.OWNER) {
            keepAnOwner();
        }
        operator.role = role;
        note("May now do other things", operator, owner);
        return member(operator);
    }

    /** Has somebody read what follow-ups tell the team, or not. */
    @Transactional
    public Member tell(UUID id, boolean told, SignedIn owner) {
        var operator = known(id);
        operator.told = told;
        note(
                told ? "Reads what follow-ups tell the team" : "No longer reads what follow-ups tell the team",
                operator,
                owner);
        return member(operator);
    }

    /** From now on they can do nothing more, also where they are signed in. */
    @Transactional
    public void remove(UUID id, SignedIn owner) {
        operators.lockAll();
        var operator = known(id);
        if (operator.role == Role.OWNER) {
            keepAnOwner();
        }
        operators.delete(operator);
        note("No longer in the team", operator, owner);
    }

    private Operator known(UUID id) {
        return operators.findById(id).orElseThrow(() -> ProblemException.notFound("Nobody of that id is in the team."));
    }

    private void keepAnOwner() {
        if (operators.countByRole(Role.OWNER) == 1) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "There must be an owner", "Make somebody else an owner first.");
        }
    }

    private void note(String what, Operator operator, SignedIn owner) {
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                what,
                operator.name + " · " + operator.role.name().toLowerCase(Locale.ROOT),
                owner.name(),
                null,
                null));
    }

    private static Member member(Operator operator) {
        return new Member(operator.id, operator.email, operator.name, operator.role, operator.told);
    }

    @Transactional(noRollbackFor = ProblemException.class)
    public SignedIn signIn(String email, String password) {
        return checked(email, password)
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.UNAUTHORIZED, "Not signed in", "No account has this address and password."))
                .signedIn();
    }

    /**
     * Changes one's own password. All other sessions of theirs end (OWASP ASVS 5.0, 7.4.3).
     *
     * @param present their password until now
     * @return with what they go on
     */
    @Transactional(noRollbackFor = ProblemException.class)
    public SignedIn changePassword(SignedIn who, String present, String next) {
        var hash = hash(next);
        var operator = checked(who.email(), present)
                .orElseThrow(() -> new ProblemException(
                        HttpStatus.UNPROCESSABLE_CONTENT,
                        "The password was not changed",
                        "Your password until now is another one."));
        operator.change(hash);
        journal.write(
                new Journal.Line(Kind.OPERATOR, "Has another password", operator.name, operator.name, null, null));
        return operator.signedIn();
    }

    /**
     * Who has a password. Somebody unknown takes as long as somebody known; too many failures lock the account for a
     * while, and the count is kept in the database, so that a second server counts along.
     */
    private Optional<Operator> checked(String email, String password) {
        Optional<Operator> known = operators.findByEmail(normal(email));
        var now = clock.instant();
        if (known.isPresent() && known.get().isLocked(now)) {
            throw new ProblemException(
                    HttpStatus.TOO_MANY_REQUESTS,
                    "Too many failed tries",
                    "This account is locked for %d minutes.".formatted(Operator.LOCKED_FOR.toMinutes()));
        }
        boolean right = passwords.matches(
                password, known.map(operator -> operator.passwordHash).orElse(nobodysHash.join()));
        known.ifPresent(operator -> {
            if (right) {
                operator.succeeded();
            } else {
                operator.failed(now);
                journal.gather(Kind.REFUSED, "Sign-in failed", operator.email, operator.email);
            }
        });
        return known.filter(operator -> right);
    }

    private static String normal(String email) {
        return email.strip().toLowerCase(Locale.ROOT);
    }
}
