package yoru.core.money;

import java.util.Currency;

/** The smallest amounts that a currency is paid in (ISO 4217). */
public record MinorUnits(Currency currency) {

    /** Digits after the decimal point; a pseudo-currency without a minor unit counts in whole units. */
    public int digits() {
        return Math.max(0, currency.getDefaultFractionDigits());
    }
}
