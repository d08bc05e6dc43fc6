package yoru.core.access;

import java.math.BigDecimal;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Terms;

/** Says under what terms a link opens. */
public final class TermsInWords {

    private TermsInWords() {}

    /**
     * "for 1 year; a refund ends it", "as long as it is held", "as long as it is paid for, not before 3 Mar 2026".
     *
     * @param rulebook which says how the source is paid for
     */
    public static String of(Link link, Rulebook rulebook) {
        var terms = link.terms();
        var text = new StringBuilder();
        text.append(length(link, rulebook));
        switch (terms.starts()) {
            case Starts.AtOnce _ -> {}
            case Starts.After it ->
                text.append(", from ").append(Words.period(it.period())).append(" later on");
            case Starts.At it -> text.append(", not before ").append(Words.day(it.date()));
        }
        terms.until().ifPresent(cap -> text.append(", at most until ").append(Words.day(cap)));
        if (terms.repeat() == Terms.Repeat.EXTEND) {
            text.append("; again adds to it");
        }
        text.append(refund(link));
        text.append(applies(link.applies(), new Words(rulebook.school().zone())));
        return text.toString();
    }

    private static String length(Link link, Rulebook rulebook) {
        return switch (link.terms().length()) {
            case Length.Lasting it -> "for " + Words.period(it.period());
            case Length.Held _ when link.from().isHeld() -> "as long as it is held";
            case Length.Held _ -> paidAgain(link.from(), rulebook) ? "as long as it is paid for" : "always";
        };
    }

    /** Whether anything that the source covers is paid for again and again; what is paid in parts is owned in the end. */
    private static boolean paidAgain(Source source, Rulebook rulebook) {
        return rulebook.products().stream()
                .filter(product -> switch (source) {
                    case Source.OfProduct it -> product.id().equals(it.product());
                    case Source.OfOption it -> product.hasOption(it.option());
                    case Source.OfCategory it -> product.categories().contains(it.category());
                    case Source.OfLevel _, Source.OfTag _, Source.OfCompleted _ -> false;
                })
                .anyMatch(product -> switch (product.billing()) {
                    case Billing.Recurring _ -> true;
                    case Billing.Once _, Billing.Free _, Billing.Instalments _ -> false;
                });
    }

    private static String refund(Link link) {
        var terms = link.terms();
        if (!link.from().isBought()) {
            return ""; // nothing of it can be given back
        }
        return switch (terms.refund()) {
            case END ->
                terms.refundShare().compareTo(BigDecimal.ONE) == 0
                        ? "; a refund ends it"
                        : "; giving back "
                                + terms.refundShare()
                                        .movePointRight(2)
                                        .stripTrailingZeros()
                                        .toPlainString()
                                + " % ends it";
            case KEEP -> "; a refund leaves it open";
        };
    }

    private static String applies(Applies applies, Words words) {
        var parts = new StringBuilder();
        applies.from()
                .ifPresent(from -> parts.append("; for what begins from ")
                        .append(words.day(from))
                        .append(" on"));
        applies.until()
                .ifPresent(until -> parts.append("; for what begins before ")
                        .append(words.day(until))
                        .append(
                                switch (applies.afterwards()) {
                                    case RUN_OUT -> ", which runs out";
                                    case TAKE_BACK -> ", taken back then";
                                }));
        return parts.toString();
    }
}
