package yoru.core.money;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import javax.money.Monetary;
import javax.money.MonetaryAmount;
import javax.money.MonetaryRounding;
import javax.money.RoundingQueryBuilder;
import org.javamoney.moneta.Money;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Against JavaMoney's reference implementation, Moneta 1.4.5 (JSR 354), and ISO 4217 as it has it. */
class SpreadTests {

    private static final List<String> CURRENCIES = List.of("EUR", "JPY", "KWD", "CLF");

    @Test
    void minorUnitsAreThoseOfIso4217() {
        for (Currency currency : Currency.getAvailableCurrencies()) {
            int expected =
                    Math.max(0, Monetary.getCurrency(currency.getCurrencyCode()).getDefaultFractionDigits());
            assertThat(new MinorUnits(currency).digits())
                    .as(currency.toString())
                    .isEqualTo(expected);
        }
    }

    private static LongStream seeds() {
        return LongStream.range(0, 300);
    }

    @ParameterizedTest(name = "seed {0}")
    @MethodSource("seeds")
    void sharesAreInProportionRoundedDownAndTheLastTakesTheRest(long seed) {
        var random = new Random(seed);
        var currency = Currency.getInstance(CURRENCIES.get(random.nextInt(CURRENCIES.size())));
        int digits = new MinorUnits(currency).digits();
        var left = new ArrayList<BigDecimal>();
        for (int part = 0; part < 1 + random.nextInt(6); part++) {
            left.add(random.nextInt(4) == 0 ? BigDecimal.ZERO : BigDecimal.valueOf(random.nextInt(100_000), digits));
        }
        var amount = BigDecimal.valueOf(random.nextInt(300_000), digits);
        var shares = Spread.over(left, amount, currency);
        assertThat(shares).hasSameSizeAs(left);
        var total = money(left.stream().reduce(BigDecimal.ZERO, BigDecimal::add), currency);
        var spread = total.isLessThan(money(amount, currency)) ? total : money(amount, currency);
        var rounding = roundingDown(digits);
        var last = left.stream()
                .mapToInt(one -> one.signum() > 0 ? left.lastIndexOf(one) : -1)
                .max()
                .orElse(-1);
        MonetaryAmount given = money(BigDecimal.ZERO, currency);
        for (int part = 0; part < left.size(); part++) {
            var share = money(shares.get(part), currency);
            if (part != last) {
                var expected = total.isZero()
                        ? total
                        : spread.multiply(left.get(part))
                                .divide(total.getNumber())
                                .with(rounding);
                assertThat(share).isEqualTo(expected);
            }
            assertThat(shares.get(part)).isLessThanOrEqualTo(left.get(part));
            given = given.add(share);
        }
        assertThat(given).as("nothing is lost and nothing made").isEqualTo(spread);
    }

    private static Money money(BigDecimal amount, Currency currency) {
        return Money.of(amount, currency.getCurrencyCode());
    }

    private static MonetaryRounding roundingDown(int digits) {
        return Monetary.getRounding(RoundingQueryBuilder.of()
                .setScale(digits)
                .set(RoundingMode.DOWN)
                .build());
    }
}
