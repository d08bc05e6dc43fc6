package yoru.server.accounts;

import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;

/** Keeps another password, once all was checked and it was hashed. */
@Service
class PasswordChange {

    private final PasswordCodeTable codes;
    private final Operators operators;
    private final Journal journal;

    PasswordChange(PasswordCodeTable codes, Operators operators, Journal journal) {
        this.codes = codes;
        this.operators = operators;
        this.journal = journal;
    }

    /** All other sessions of theirs end (OWASP ASVS 5.0, 7.4.3), and no code is good any more. */
    @Transactional
    public SignedIn set(UUID id, String hash) {
        var operator = operators.lockById(id).orElseThrow(Operators::nobody);
        operator.change(hash);
        codes.deleteByOperatorId(id);
        journal.write(
                new Journal.Line(Kind.OPERATOR, "Has another password", operator.email, operator.name, null, null));
        return operator.signedIn();
    }
}
