package yoru.formats.matching;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.TemporalAccessor;
import java.util.Currency;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** A small change to a value on its way from an incoming field to one of Yoru's. */
sealed interface Step {

    /** @throws Unfit when the value is not of a kind that the step can work with */
    String apply(String value, @Nullable Currency currency);

    /** What is wrong with a value, in words that go on after the field's name. */
    final class Unfit extends RuntimeException {
        private static final long serialVersionUID = 1;

        Unfit(String problem) {
            super(problem);
        }
    }

    /** Leaves spaces around out, and makes one of many within. */
    record Trim() implements Step {
        @Override
        public String apply(String value, @Nullable Currency currency) {
            return value.strip().replaceAll("\\s+", " ");
        }
    }

    record Lower() implements Step {
        @Override
        public String apply(String value, @Nullable Currency currency) {
            return value.toLowerCase(Locale.ROOT);
        }
    }

    record Upper() implements Step {
        @Override
        public String apply(String value, @Nullable Currency currency) {
            return value.toUpperCase(Locale.ROOT);
        }
    }

    /** Splits a name: its first word, or all others. */
    record Word(boolean first) implements Step {
        @Override
        public String apply(String value, @Nullable Currency currency) {
            var words = value.strip().split("\\s+", 2);
            return first ? words[0] : words.length > 1 ? words[1] : "";
        }
    }

    /** Puts a text before it, so that numbers of two shops are not taken for one. */
    record Prefix(String text) implements Step {
        @Override
        public String apply(String value, @Nullable Currency currency) {
            return text + value;
        }
    }

    /** "18000" is 180.00 where the currency has two digits (ISO 4217). */
    record MinorUnits() implements Step {
        private static final Pattern WHOLE = Pattern.compile("-?\\d{1,15}");

        @Override
        public String apply(String value, @Nullable Currency currency) {
            if (!WHOLE.matcher(value.strip()).matches()) {
                throw new Unfit("is “" + value + "”, no whole number of minor units");
            }
            if (currency == null) {
                throw new Unfit("cannot be told from minor units while the currency is not known");
            }
            return new BigDecimal(value.strip())
                    .movePointLeft(currency.getDefaultFractionDigits())
                    .toPlainString();
        }
    }

    /** An amount as people write it. */
    record Decimals() implements Step {
        @Override
        public String apply(String value, @Nullable Currency currency) {
            return Amounts.plain(value).orElseThrow(() -> new Unfit("is “" + value + "”, no amount"));
        }
    }

    /**
     * A time in another form than RFC 3339.
     *
     * @param format as {@link DateTimeFormatter} writes it; {@code seconds} and {@code milliseconds} count from 1970
     * @param zone where the time has none of its own
     */
    record Date(String format, ZoneId zone) implements Step {
        @Override
        public String apply(String value, @Nullable Currency currency) {
            try {
                return switch (format) {
                    case "seconds" ->
                        Instant.ofEpochMilli(new BigDecimal(value.strip())
                                        .movePointRight(3)
                                        .longValue())
                                .toString();
                    case "milliseconds" ->
                        Instant.ofEpochMilli(Long.parseLong(value.strip())).toString();
                    default -> instant(value.strip()).toString();
                };
            } catch (DateTimeException | NumberFormatException e) {
                throw new Unfit("is “" + value + "”, no time written as " + format);
            }
        }

        private Instant instant(String value) {
            TemporalAccessor read = DateTimeFormatter.ofPattern(format, Locale.ENGLISH)
                    .parseBest(value, ZonedDateTime::from, OffsetDateTime::from, LocalDateTime::from, LocalDate::from);
            return switch (read) {
                case ZonedDateTime it -> it.toInstant();
                case OffsetDateTime it -> it.toInstant();
                case LocalDateTime it -> it.atZone(zone).toInstant();
                default -> LocalDate.from(read).atStartOfDay(zone).toInstant();
            };
        }
    }

    /**
     * Another value for each that is named.
     *
     * @param otherwise for those that are not; none = they are a fault
     */
    record Lookup(Map<String, String> table, @Nullable String otherwise) implements Step {
        public Lookup {
            table = Map.copyOf(table);
        }

        @Override
        public String apply(String value, @Nullable Currency currency) {
            var found = table.getOrDefault(value, otherwise);
            if (found == null) {
                throw new Unfit("is “" + value + "”, which the table does not have");
            }
            return found;
        }
    }
}
