package yoru.formats;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;

/** An object of a document, read field by field; what is wrong is collected with its place. */
final class Fields {

    /** More digits than any price has; keeps hostile numbers from costing time. */
    private static final Pattern DECIMAL = Pattern.compile("-?\\d{1,18}(\\.\\d{1,6})?");

    private static final Pattern PERIOD = Pattern.compile("P(?=\\d)(\\d{1,4}Y)?(\\d{1,5}M)?(\\d{1,5}W)?(\\d{1,7}D)?");

    private static final int LONGEST_TEXT = 2_000;

    private final JsonNode node;
    private final String path;
    private final List<Fault> faults;

    Fields(JsonNode node, String path, List<Fault> faults) {
        this.node = node;
        this.path = path;
        this.faults = faults;
        if (!node.isObject()) {
            fault("", "must be an object");
        }
    }

    void allow(Set<String> keys) {
        node.propertyNames().stream()
                .filter(key -> !keys.contains(key))
                .forEach(key -> fault(
                        key,
                        "is not known here; allowed: "
                                + String.join(", ", keys.stream().sorted().toList())));
    }

    boolean has(String key) {
        return node.hasNonNull(key);
    }

    String text(String key) {
        var value = optionalText(key);
        if (value == null && !has(key)) {
            fault(key, "is missing");
        }
        return value == null ? "" : value;
    }

    @Nullable
    String optionalText(String key) {
        if (!has(key)) {
            return null;
        }
        var value = node.get(key);
        if (!value.isString()) {
            fault(key, "must be text");
            return null;
        }
        var text = value.stringValue();
        if (text.isBlank()) {
            fault(key, "is empty");
            return null;
        }
        if (text.length() > LONGEST_TEXT || text.indexOf('\0') >= 0 || hasHalfCharacter(text)) {
            fault(key, "must be at most " + LONGEST_TEXT + " Unicode characters, without NUL");
            return null;
        }
        return text;
    }

    /** As it stands, whatever it is; what has the form of a document was seen before. */
    String anyText(String key) {
        return node.path(key).asString("");
    }

    /** Where it stands in the document. */
    String path() {
        return path;
    }

    List<String> keys() {
        return List.copyOf(node.propertyNames());
    }

    boolean isObject(String key) {
        return node.path(key).isObject();
    }

    /** From 1 on. */
    int wholeNumber(String key, int otherwise) {
        if (!has(key)) {
            return otherwise;
        }
        var value = node.get(key);
        if (!value.isInt() || value.intValue() < 1) {
            fault(key, "must be a whole number from 1 on");
            return otherwise;
        }
        return value.intValue();
    }

    /** From 1 on, and there. */
    int count(String key) {
        if (!has(key)) {
            fault(key, "is missing");
        }
        return wholeNumber(key, 1);
    }

    /** Any whole number; 0 where it is left out. */
    int number(String key) {
        return has(key) && node.get(key).isInt() ? node.get(key).intValue() : 0;
    }

    @Nullable
    Integer optionalNumber(String key) {
        return has(key) ? Integer.valueOf(number(key)) : null;
    }

    /** False where it is left out. */
    boolean flag(String key) {
        if (!has(key)) {
            return false;
        }
        if (!node.get(key).isBoolean()) {
            fault(key, "must be true or false");
            return false;
        }
        return node.get(key).booleanValue();
    }

    BigDecimal amount(String key) {
        if (!has(key)) {
            fault(key, "is missing");
            return BigDecimal.ZERO;
        }
        var amount = optionalAmount(key);
        return amount == null ? BigDecimal.ZERO : amount;
    }

    /** A decimal in text ("180.00"), not negative: a JSON number would have gone through floating point somewhere. */
    @Nullable
    BigDecimal optionalAmount(String key) {
        if (!has(key)) {
            return null;
        }
        var value = node.get(key);
        if (!value.isString() || !DECIMAL.matcher(value.stringValue()).matches()) {
            fault(key, "must be a decimal in text, such as \"180.00\"");
            return null;
        }
        var amount = new BigDecimal(value.stringValue());
        if (amount.signum() < 0) {
            fault(key, "must not be negative");
            return null;
        }
        return amount;
    }

    @Nullable
    BigDecimal optionalDecimal(String key) {
        return has(key) && node.get(key).isNumber() ? node.get(key).decimalValue() : null;
    }

    /** A number above 0 and at most 1; 1 when left out. */
    BigDecimal share(String key) {
        if (!has(key)) {
            return BigDecimal.ONE;
        }
        var value = node.get(key);
        if (value.isNumber()
                && value.decimalValue().signum() > 0
                && value.decimalValue().compareTo(BigDecimal.ONE) <= 0) {
            return value.decimalValue();
        }
        fault(key, "must be a number above 0 and at most 1");
        return BigDecimal.ONE;
    }

    /** What is only to be shown: something else than text is let through, as all that is not known, and says nothing. */
    String said(String key) {
        var value = node.path(key);
        return value.isString() && value.stringValue().length() <= LONGEST_TEXT
                ? value.stringValue().strip()
                : "";
    }

    /** A date that is only to be shown. */
    @Nullable
    LocalDate saidDate(String key) {
        var text = said(key);
        if (text.isEmpty()) {
            return null; // nearly always, and an exception costs
        }
        try {
            return LocalDate.parse(text);
        } catch (DateTimeException e) {
            return null;
        }
    }

    /** An amount that is only to be shown. */
    @Nullable
    BigDecimal saidAmount(String key) {
        return DECIMAL.matcher(said(key)).matches() ? new BigDecimal(said(key)) : null;
    }

    /** An instant as RFC 3339 writes it, years 1 to 9999. */
    Instant instant(String key) {
        var text = text(key);
        if (text.isEmpty()) {
            return Instant.EPOCH;
        }
        var plain = PlainInstant.read(text);
        if (plain != null) {
            return plain;
        }
        try {
            var time = OffsetDateTime.parse(text);
            if (time.getYear() >= 1 && time.getYear() <= 9999) {
                return time.toInstant();
            }
        } catch (DateTimeException e) {
            // said below
        }
        fault(key, "must be a time with its offset, such as 2026-03-01T10:00:00Z");
        return Instant.EPOCH;
    }

    @Nullable
    Instant optionalInstant(String key) {
        return has(key) ? instant(key) : null;
    }

    /** A local date and time, as ISO 8601 writes it. */
    LocalDateTime local(String key) {
        try {
            return LocalDateTime.parse(text(key));
        } catch (DateTimeException e) {
            fault(key, "must be a local date and time such as 2026-03-01T09:00:00");
            return LocalDateTime.MIN;
        }
    }

    /** An ISO 8601 period in years, months, weeks and days; each part is bounded, so that it can be counted with. */
    Period period(String key) {
        var text = text(key);
        try {
            if (PERIOD.matcher(text).matches()) {
                return Period.parse(text);
            }
        } catch (DateTimeException e) {
            // said below
        }
        fault(key, "must be an ISO 8601 period such as P1Y or P30D");
        return Period.ZERO;
    }

    /** A period of zero where it is left out. */
    Period periodOrZero(String key) {
        return has(key) ? period(key) : Period.ZERO;
    }

    @Nullable
    Period optionalPeriod(String key) {
        return has(key) ? period(key) : null;
    }

    <E extends Enum<E>> E oneOf(String key, Class<E> type, @Nullable E otherwise) {
        var values = List.of(type.getEnumConstants());
        if (!has(key) && otherwise != null) {
            return otherwise;
        }
        var text = text(key);
        return values.stream()
                .filter(value -> word(value).equals(text))
                .findFirst()
                .orElseGet(() -> {
                    if (!text.isEmpty()) {
                        fault(
                                key,
                                "must be one of "
                                        + values.stream().map(Fields::word).toList());
                    }
                    return values.getFirst();
                });
    }

    List<String> texts(String key) {
        var list = new ArrayList<String>();
        int at = 0;
        for (JsonNode element : array(key)) {
            if (element.isString()) {
                list.add(element.stringValue());
            } else {
                fault(key + "[" + at + "]", "must be text");
            }
            at++;
        }
        return list;
    }

    <T> List<T> objects(String key, Function<Fields, T> read) {
        var list = new ArrayList<T>();
        int at = 0;
        for (JsonNode element : array(key)) {
            list.add(read.apply(new Fields(element, place(key + "[" + at + "]"), faults)));
            at++;
        }
        return list;
    }

    /** A list of lists of two texts. */
    List<List<String>> pairs(String key) {
        var list = new ArrayList<List<String>>();
        int at = 0;
        for (JsonNode element : array(key)) {
            if (element.size() == 2
                    && element.get(0).isString()
                    && element.get(1).isString()) {
                list.add(List.of(element.get(0).stringValue(), element.get(1).stringValue()));
            } else {
                fault(key + "[" + at + "]", "must be a list of two texts");
            }
            at++;
        }
        return list;
    }

    /** A part of a rulebook's document, read only where it has the form of one. */
    @Nullable
    <T> T part(String key, String definition, Function<Fields, T> read) {
        var part = node.path(key);
        var wrong = DocumentSchema.thing(definition).faults(part);
        wrong.forEach(fault -> fault(fault.field().isEmpty() ? key : key + "." + fault.field(), fault.problem()));
        return wrong.isEmpty() ? read.apply(object(key)) : null;
    }

    /** A list of objects, or one by itself. */
    <T> List<T> oneOrMore(String key, Function<Fields, T> read) {
        return isObject(key) ? List.of(read.apply(object(key))) : objects(key, read);
    }

    Fields object(String key) {
        if (!has(key)) {
            fault(key, "is missing");
        }
        return new Fields(has(key) ? node.get(key) : JsonNodeFactory.instance.objectNode(), place(key), faults);
    }

    void fault(String key, String problem) {
        faults.add(new Fault(place(key), problem));
    }

    /** A surrogate without its other half is no character, and cannot be written again. */
    private static boolean hasHalfCharacter(String text) {
        for (int at = 0; at < text.length(); at++) {
            if (Character.isSurrogate(text.charAt(at))) {
                boolean pair =
                        at + 1 < text.length() && Character.isSurrogatePair(text.charAt(at), text.charAt(at + 1));
                if (!pair) {
                    return true;
                }
                at++;
            }
        }
        return false;
    }

    private Iterable<JsonNode> array(String key) {
        if (!has(key)) {
            return List.of();
        }
        if (!node.get(key).isArray()) {
            fault(key, "must be a list");
            return List.of();
        }
        return node.get(key);
    }

    private String place(String key) {
        return path.isEmpty() ? key : key.isEmpty() ? path : path + "." + key;
    }

    /** {@code RUN_OUT} as {@code run-out}. */
    static String word(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
