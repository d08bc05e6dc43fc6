package yoru.server.desk;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.Period;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import yoru.core.desk.Act;
import yoru.core.ledger.PersonKey;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Target;
import yoru.server.platform.ProblemException;

/**
 * An act as a browser fills it in; which fields it takes depends on what is done.
 *
 * @param person the key of whom it is about
 * @param name what they are called, where they are new
 * @param to what is given, as paths of targets ({@code course/ID@TIER} = up to a tier), the addresses of who gets seats, or
 *     the id of another level
 * @param follows whether a level lasts as long as what pays for the one before; left out = it does
 * @param returned courses chosen so far that are given back along with a level
 * @param length an ISO 8601 period
 */
public record ActSheet(
        @NotNull Kind kind,
        @Nullable @Size(max = 320) String person,
        @Nullable @Size(max = 200) String name,
        @Nullable @Size(max = 200) String order,
        @Nullable @Size(max = 200) String line,
        @Nullable Integer number,
        @Nullable BigDecimal amount,
        @Nullable @Size(max = 500) String reason,
        @Nullable @Size(max = 100) List<@NotBlank @Size(max = 500) String> to,
        @Nullable @Size(max = 1_000) List<@NotBlank @Size(max = 200) String> returned,
        @Nullable Boolean follows,
        @Nullable @Size(max = 40) String length,
        @Nullable @Size(max = 500) String thing,
        @Nullable @Size(max = 100) List<@Valid ItemSheet> items,
        @Nullable @Valid PaymentSheet payment) {

    /** What is done. */
    enum Kind {
        SELL,
        PAY,
        PAY_INSTALMENT,
        INVOICE,
        FULFIL,
        CANCEL,
        REFUND,
        CLAIM,
        ASSIGN,
        GIVE,
        EXTEND,
        END_GRANT,
        CHOOSE,
        RELEASE,
        END_SUBSCRIPTION_NOW,
        END_SUBSCRIPTION_LATER,
        START_LEVEL,
        END_LEVEL,
        CHANGE_LEVEL,
        ADD_TAG,
        REMOVE_TAG,
        JOIN,
        PART,
        ERASE
    }

    /** @param off what is taken off the whole line */
    record ItemSheet(
            @NotBlank @Size(max = 200) String product,
            @Nullable @Size(max = 200) String option,
            int quantity,
            @NotNull BigDecimal price,
            @Nullable BigDecimal off,
            @Nullable @Size(max = 320) String giftTo,
            @Nullable LocalDate giftOn) {}

    /**
     * A method of payment that the buyer left with a shop.
     *
     * @param connection the shop
     * @param method as the shop calls it
     * @param label as people know it
     */
    record OnFileSheet(
            @NotBlank @Size(max = 200) String connection,
            @NotBlank @Size(max = 200) String method,
            @NotBlank @Size(max = 200) String label) {}

    /** How an order is paid. */
    enum PaymentKind {
        FREE,
        ALREADY,
        LATER_OPEN_NOW,
        LATER_OPEN_WHEN_PAID,
        ON_FILE
    }

    /**
     * @param method how, in a word or two
     * @param payBy as the school counts days
     * @param onFile what is charged, where a method on file is
     */
    record PaymentSheet(
            @NotNull PaymentKind kind,
            @Nullable @Size(max = 500) String reason,
            @Nullable @Size(max = 100) String method,
            @Nullable @Size(max = 200) String reference,
            @Nullable LocalDate payBy,
            @Nullable @Valid OnFileSheet onFile) {

        boolean isLater() {
            return kind == PaymentKind.LATER_OPEN_NOW || kind == PaymentKind.LATER_OPEN_WHEN_PAID;
        }

        Act.Payment payment() {
            return switch (kind) {
                case FREE -> new Act.Payment.Free(orEmpty(reason));
                case ALREADY -> new Act.Payment.Already(orEmpty(method), orEmpty(reference));
                case LATER_OPEN_NOW -> new Act.Payment.Later(true, payBy);
                case LATER_OPEN_WHEN_PAID -> new Act.Payment.Later(false, payBy);
                case ON_FILE -> {
                    needed("onFile", onFile);
                    yield new Act.Payment.OnFile();
                }
            };
        }
    }

    /** @param newOrder the id of an order that this would make */
    Act act(String newOrder) {
        return switch (kind) {
            case SELL ->
                new Act.Sell(
                        newOrder,
                        key("person", person),
                        orNone(items).stream().map(ActSheet::item).toList(),
                        needed("payment", payment).payment());
            case PAY -> new Act.Pay(needed("order", order), method(), reference());
            case PAY_INSTALMENT ->
                new Act.PayInstalment(needed("order", order), needed("line", line), needed("number", number));
            case INVOICE ->
                new Act.Invoice(needed("order", order), reference(), payment == null ? null : payment.payBy);
            case FULFIL -> new Act.Fulfil(needed("order", order));
            case CANCEL -> new Act.Cancel(needed("order", order));
            case REFUND -> new Act.Refund(needed("order", order), line, amount, orEmpty(reason));
            case CLAIM ->
                new Act.Claim(
                        needed("order", order), needed("line", line), needed("number", number), key("person", person));
            case ASSIGN ->
                new Act.Assign(
                        needed("order", order),
                        needed("line", line),
                        orNone(to).stream().map(address -> key("to", address)).toList());
            case GIVE ->
                new Act.Give(
                        key("person", person),
                        orNone(to).stream().map(ActSheet::destination).toList(),
                        length == null || length.isBlank() ? null : period(length),
                        orEmpty(reason));
            case EXTEND ->
                new Act.Extend(
                        key("person", person),
                        target("thing", needed("thing", thing)),
                        period(needed("length", length)),
                        orEmpty(reason));
            case END_GRANT -> new Act.EndGrant(key("person", person), needed("thing", thing));
            case CHOOSE -> new Act.Choose(key("person", person), needed("thing", thing));
            case RELEASE -> new Act.Release(key("person", person), needed("thing", thing));
            case END_SUBSCRIPTION_NOW -> new Act.EndSubscription(key("person", person), needed("thing", thing), false);
            case END_SUBSCRIPTION_LATER -> new Act.EndSubscription(key("person", person), needed("thing", thing), true);
            case START_LEVEL -> new Act.StartLevel(key("person", person), needed("thing", thing));
            case END_LEVEL -> new Act.EndLevel(key("person", person), needed("thing", thing));
            case CHANGE_LEVEL ->
                new Act.ChangeLevel(
                        key("person", person),
                        needed("thing", thing),
                        orNone(to).stream().findFirst().orElseThrow(() -> wrong("to", "This is missing.")),
                        orNone(returned),
                        !Boolean.FALSE.equals(follows),
                        orEmpty(reason));
            case ADD_TAG -> new Act.AddTag(key("person", person), needed("thing", thing));
            case REMOVE_TAG -> new Act.RemoveTag(key("person", person), needed("thing", thing));
            case JOIN -> new Act.Join(key("person", person), key("thing", thing));
            case PART -> new Act.Part(key("person", person));
            case ERASE -> new Act.Erase(key("person", person));
        };
    }

    /** What is charged, where a method on file is. */
    @Nullable
    OnFileSheet onFile() {
        return kind == Kind.SELL && payment != null && payment.kind == PaymentKind.ON_FILE ? payment.onFile : null;
    }

    private String method() {
        return payment == null ? "" : orEmpty(payment.method);
    }

    private String reference() {
        return payment == null ? "" : orEmpty(payment.reference);
    }

    private static Act.Item item(ItemSheet sheet) {
        var option = sheet.option == null || sheet.option.isBlank() ? null : sheet.option;
        var giftTo = sheet.giftTo == null || sheet.giftTo.isBlank() ? null : key("giftTo", sheet.giftTo);
        return new Act.Item(
                sheet.product,
                option,
                sheet.quantity,
                sheet.price,
                Objects.requireNonNullElse(sheet.off, BigDecimal.ZERO),
                giftTo,
                giftTo == null ? null : sheet.giftOn);
    }

    private static Destination destination(String path) {
        int tier = path.indexOf('@');
        if (path.startsWith("course/") && tier > 0) {
            return new Destination.OfCourse(path.substring("course/".length(), tier), path.substring(tier + 1));
        }
        return Destination.to(target("to", path));
    }

    private static Target target(String field, String path) {
        try {
            return Target.read(path);
        } catch (IllegalArgumentException e) {
            throw wrong(field, "There is no " + path + ".");
        }
    }

    private static Period period(String text) {
        try {
            return Period.parse(text);
        } catch (DateTimeException e) {
            throw wrong("length", "An ISO 8601 period such as P1Y or P30D.");
        }
    }

    /** As facts have people. */
    private static String key(String field, @Nullable String text) {
        return PersonKey.plain(needed(field, text));
    }

    private static <T> T needed(String field, @Nullable T value) {
        if (value == null) {
            throw wrong(field, "This is missing.");
        }
        return value;
    }

    private static <T> List<T> orNone(@Nullable List<T> list) {
        return list == null ? List.of() : list;
    }

    private static String orEmpty(@Nullable String text) {
        return text == null ? "" : text;
    }

    private static ProblemException wrong(String field, String problem) {
        return ProblemException.inField("This act cannot be read", field, problem);
    }
}
