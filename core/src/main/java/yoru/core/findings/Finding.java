package yoru.core.findings;

import java.util.List;
import yoru.core.rulebook.CellChange;

/**
 * Something a person should look at.
 *
 * @param subject what it is about, as a path: {@code product/QUEEN}, {@code course/first-hive}, {@code link/L1}
 * @param title in a few words
 * @param text what is so
 * @param advice what to do
 * @param people how many it has touched so far; 0 where that cannot be counted
 * @param evidence on what it rests: a finding that was accepted comes back when this changes
 * @param fix changes of cells that would put it right; none where somebody has to decide
 */
public record Finding(
        Kind kind,
        String subject,
        String title,
        String text,
        String advice,
        int people,
        String evidence,
        List<CellChange> fix) {

    public Finding {
        fix = List.copyOf(fix);
    }

    /** How much it matters. */
    public enum Severity {
        /** Somebody who paid does not get in, or somebody who did not does. */
        GRAVE,
        /** It will not do what it looks like. */
        WARNING,
        /** Perhaps it is meant so. */
        NOTE
    }

    /** What is found, the gravest first. */
    public enum Kind {
        UNKNOWN_PRODUCT(Severity.GRAVE),
        SIDE_DOOR(Severity.GRAVE),
        IN_WITHOUT_REASON(Severity.GRAVE),
        SOLD_ELSEWHERE(Severity.GRAVE),
        GUESTS_CAN_BUY(Severity.GRAVE),
        PAID_FOR_MORE(Severity.GRAVE),
        OPENS_NOTHING(Severity.GRAVE),
        OPTION_OPENS_NOTHING(Severity.GRAVE),
        NEVER_FULFILLED(Severity.GRAVE),
        COURSE_GONE(Severity.GRAVE),
        COURSE_NOWHERE(Severity.GRAVE),
        PRICE_FAR_OFF(Severity.GRAVE),
        NO_PASSWORD(Severity.WARNING),
        INSTALMENTS_TOO_CHEAP(Severity.WARNING),
        COVERS_MORE(Severity.WARNING),
        PROMISE_DIFFERS(Severity.WARNING),
        TAG_STAYS(Severity.WARNING),
        TWO_LINKS(Severity.WARNING),
        LEADS_TO_ITSELF(Severity.WARNING),
        LINK_IS_OVER(Severity.WARNING),
        LADDER_HOLE(Severity.WARNING),
        ALLOWANCE_TOO_LARGE(Severity.WARNING),
        EMPTY(Severity.WARNING),
        UNPUBLISHED(Severity.WARNING),
        NO_WAY_IN(Severity.WARNING),
        COVERS_NOTHING(Severity.WARNING),
        PRODUCT_GONE(Severity.WARNING),
        LEVEL_OPENS_NOTHING(Severity.WARNING),
        ROW_MISSING(Severity.WARNING),
        NOTHING_STARTS_IT(Severity.WARNING),
        WRITES_TOO_EARLY(Severity.WARNING),
        TWO_LETTERS(Severity.WARNING),
        LEADS_OUTSIDE(Severity.WARNING),
        LEADS_NOWHERE(Severity.WARNING),
        NOT_FOR_SALE(Severity.WARNING),
        LANDS_BEFORE_CLOSED(Severity.WARNING),
        SIGN_IN_FORGETS(Severity.WARNING),
        DOOR_WITHOUT_WAY(Severity.NOTE),
        LASTS_FOR_GOOD(Severity.WARNING),
        PRICE_IN_FREE_LETTER(Severity.WARNING),
        ROW_DIFFERS(Severity.NOTE),
        SAME_NAME(Severity.NOTE),
        RENAMED(Severity.NOTE),
        NOT_MAPPED_YET(Severity.NOTE),
        TAG_UNUSED(Severity.NOTE);

        private final Severity severity;

        Kind(Severity severity) {
            this.severity = severity;
        }

        public Severity severity() {
            return severity;
        }
    }

    static Finding of(Kind kind, String subject, String title, String text, String advice) {
        return new Finding(kind, subject, title, text, advice, 0, text, List.of());
    }

    /** The same with how many people it has touched; more of them is nothing new. */
    Finding touching(int many, String words) {
        return new Finding(kind, subject, title, words, advice, many, kind.name(), fix);
    }

    Finding mendedBy(List<CellChange> changes) {
        return new Finding(kind, subject, title, text, advice, people, evidence, changes);
    }

    static String counted(int count, String one, String many) {
        return (count == 0 ? "no" : String.valueOf(count)) + " " + (count == 1 ? one : many);
    }
}
