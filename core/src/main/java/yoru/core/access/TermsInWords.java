package yoru.core.access;

import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Terms;

/** Says under what terms a link opens. */
public final class TermsInWords {

    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);

    private TermsInWords() {}

    /** "for 1 year; a refund ends it", "as long as it is held". */
    public static String of(Link link) {
        var terms = link.terms();
        var text = new StringBuilder();
        switch (terms.starts()) {
            case Starts.AtOnce _ -> {}
            case Starts.After it -> text.append(Words.period(it.period())).append(" later, ");
            case Starts.At it -> text.append("from ").append(day(it.date())).append(", ");
        }
        switch (terms.length()) {
            case Length.Held _ -> text.append(link.from().isHeld() ? "as long as it is held" : "always");
            case Length.Lasting it -> text.append("for ").append(Words.period(it.period()));
        }
        terms.until().ifPresent(cap -> text.append(", at most until ").append(day(cap)));
        if (terms.repeat() == Terms.Repeat.EXTEND) {
            text.append("; again adds to it");
        }
        if (!link.from().isBought()) {
            return text.toString(); // nothing of it can be given back
        }
        return text.append(
                        switch (terms.refund()) {
                            case END ->
                                terms.refundShare().compareTo(BigDecimal.ONE) == 0
                                        ? "; a refund ends it"
                                        : "; giving back a share of " + terms.refundShare() + " ends it";
                            case KEEP -> "; a refund leaves it open";
                        })
                .toString();
    }

    private static String day(LocalDateTime date) {
        return DATE.format(date);
    }
}
