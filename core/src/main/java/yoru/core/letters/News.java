package yoru.core.letters;

import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Access;
import yoru.core.access.Entitlement;
import yoru.core.access.HowLong;
import yoru.core.ledger.Channel;
import yoru.core.rulebook.Target;

/**
 * Something that has opened for somebody, as a letter may tell it.
 *
 * @param free whether it was given by an order by hand for which nothing is to be paid
 * @param orderOrNone the order that opened it
 * @param productOrNone what of it was bought; none = it is not known any more
 */
public record News(
        Target target,
        Instant since,
        HowLong howLong,
        boolean free,
        @Nullable String orderOrNone,
        @Nullable String productOrNone) {

    /** A letter about something that opened longer ago says nothing that is of use: the past of a new school, for example. */
    private static final Duration NEW = Duration.ofDays(2);

    public static News of(Access access) {
        var bought = access.entitlements().stream()
                .flatMap(it -> it.reason().bought().stream())
                .findFirst();
        return new News(
                access.target(),
                access.window().start(),
                HowLong.of(access),
                access.entitlements().stream().allMatch(News::isFree),
                bought.map(it -> it.order().id()).orElse(null),
                bought.map(it -> it.line().product()).orElse(null));
    }

    private static boolean isFree(Entitlement entitlement) {
        return entitlement
                .reason()
                .bought()
                .filter(bought -> bought.order().details().channel() == Channel.HAND
                        && bought.line().amount().signum() == 0)
                .isPresent();
    }

    /** Whether it is about something: a target, also as a part of a course, or what was bought in an order. */
    public boolean isAbout(String thing, @Nullable String order) {
        return thing.equals(target.path())
                || (target instanceof Target.OfSection it && thing.equals("course/" + it.course()))
                || (productOrNone != null
                        && thing.equals("product/" + productOrNone)
                        && Objects.equals(order, orderOrNone));
    }

    /** Tags, levels and lists are the school's own book-keeping; of a course's parts the letter about the course tells. */
    public boolean isWorthALetter(Instant asOf) {
        return switch (target) {
            case Target.OfCourse _, Target.OfSection _, Target.OfGroup _, Target.OfArea _, Target.OfDownload _ ->
                since.isAfter(asOf.minus(NEW));
            case Target.OfTag _, Target.OfLevel _, Target.OfList _ -> false;
        };
    }
}
