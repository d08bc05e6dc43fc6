package yoru.core.access;

import java.util.List;
import yoru.core.ledger.Warning;

/** @param access by person, target and start, in code point order */
public record Evaluation(List<Access> access, List<Warning> warnings) {
    public Evaluation {
        access = List.copyOf(access);
        warnings = List.copyOf(warnings);
    }
}
