package yoru.core.desk;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.desk.Decision.Refusal;
import yoru.core.ledger.EmailAddress;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.money.MinorUnits;

/** One act being decided: the facts that it comes to so far, and what is in its way. */
final class Deciding {

    private final String key;
    private final Instant now;
    private final ZoneId zone;
    private final List<Fact> facts = new ArrayList<>();
    private final List<Refusal> refusals = new ArrayList<>();

    Deciding(String key, Instant now, ZoneId zone) {
        this.key = key;
        this.now = now;
        this.zone = zone;
    }

    /** Tells the act from all others. */
    String key() {
        return key;
    }

    List<Fact> facts() {
        return List.copyOf(facts);
    }

    /** Whether nothing is in its way so far. */
    boolean isClear() {
        return refusals.isEmpty();
    }

    Decision decision() {
        return new Decision(isClear() ? facts : List.of(), refusals);
    }

    void fact(String subject, Happening happening) {
        facts.add(new Fact(new FactId(Desk.SOURCE, key + "/" + (facts.size() + 1)), subject, now, happening));
    }

    void refuse(String field, String problem) {
        refusals.add(new Refusal(field, problem));
    }

    void refuseIf(boolean wrong, String field, String problem) {
        if (wrong) {
            refuse(field, problem);
        }
    }

    boolean isBeforeToday(@Nullable LocalDate day) {
        return day != null && day.isBefore(LocalDate.ofInstant(now, zone));
    }

    void address(String field, String text) {
        refuseIf(!EmailAddress.isOne(text), field, "This is no e-mail address.");
    }

    void reason(String text) {
        refuseIf(text.isBlank(), "reason", "Say why: whoever looks later wants to know.");
    }

    void amount(String field, BigDecimal amount, Currency currency) {
        refuseIf(amount.signum() < 0, field, "An amount is not negative.");
        refuseIf(
                amount.stripTrailingZeros().scale() > new MinorUnits(currency).digits(),
                field,
                "%s has no parts that small.".formatted(currency.getCurrencyCode()));
    }
}
