package yoru.server.accounts;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.OperatorLeft;
import yoru.server.platform.ProblemException;

/** Makes operators and lets them in. */
@Service
public class Accounts {

    private final Operators operators;
    private final FirstCodes firstCodes;
    private final Passwords passwords;
    private final Journal journal;
    private final ApplicationEventPublisher events;

    Accounts(
            Operators operators,
            FirstCodes firstCodes,
            Passwords passwords,
            Journal journal,
            ApplicationEventPublisher events) {
        this.operators = operators;
        this.firstCodes = firstCodes;
        this.passwords = passwords;
        this.journal = journal;
        this.events = events;
    }

    /** Whether nobody can sign in yet. */
    @Transactional(readOnly = true)
    public boolean isEmpty() {
        return operators.count() == 0;
    }

    /** The owner of a school that makes itself, with a password that the school chose. */
    @Transactional
    public SignedIn makeOwnerOfPracticeSchool(String email, String name, String password) {
        return makeOwner(email, name, passwords.hash(password));
    }

    /** Makes the owner's account, as long as there is none. */
    @Transactional
    SignedIn makeOwner(String email, String name, String hash) {
        operators.lockAll();
        if (operators.count() > 0) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "There is an owner already", "Sign in with the owner's account instead.");
        }
        var owner = operators.save(new Operator(SignIns.normal(email), name.strip(), hash, Role.OWNER));
        owner.told = true;
        firstCodes.deleteAll();
        journal.write(
                new Journal.Line(Kind.OPERATOR, "The owner's account was made", owner.email, owner.name, null, null));
        return owner.signedIn();
    }

    /**
     * Somebody who works with Yoru.
     *
     * @param told whether they read what follow-ups tell the team
     * @param invited whether they have not set a password yet
     * @param secondFactor whether they prove themselves by more than a password
     * @param passkeys how many they can sign in with instead
     */
    public record Member(
            UUID id,
            String email,
            String name,
            Role role,
            boolean told,
            boolean invited,
            boolean secondFactor,
            int passkeys) {}

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

    /** Lets somebody else work with Yoru, once they have set a password. */
    @Transactional
    public Member add(String email, String name, Role role, SignedIn owner) {
        operators.lockAll();
        if (operators.findByEmail(SignIns.normal(email)).isPresent()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "They are here already", SignIns.normal(email) + " works with Yoru already.");
        }
        var operator = operators.save(new Operator(SignIns.normal(email), name.strip(), null, role));
        note("Added to the team", operator, owner);
        return member(operator);
    }

    /** Changes what somebody may do, at once. */
    @Transactional
    public Member change(UUID id, Role role, SignedIn owner) {
        operators.lockAll();
        var operator = operators.known(id);
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
        var operator = operators.known(id);
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
        var operator = operators.known(id);
        if (operator.role == Role.OWNER) {
            keepAnOwner();
        }
        operators.delete(operator);
        note("No longer in the team", operator, owner);
        events.publishEvent(new OperatorLeft(operator.id, operator.name));
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
                operator.email + " · " + operator.role.name().toLowerCase(Locale.ROOT),
                owner.name(),
                null,
                null));
    }

    private static Member member(Operator operator) {
        return new Member(
                operator.id,
                operator.email,
                operator.name,
                operator.role,
                operator.told,
                operator.passwordHash == null,
                operator.factorSince != null,
                operator.passkeys);
    }

    /** Somebody of the team by their address. */
    @Transactional(readOnly = true)
    public Optional<Member> member(String email) {
        return operators.findByEmail(SignIns.normal(email)).map(Accounts::member);
    }

    @Transactional(readOnly = true)
    public Member member(UUID id) {
        return member(operators.known(id));
    }
}
