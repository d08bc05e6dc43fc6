package yoru.core.letters;

import java.time.Duration;
import java.time.Instant;
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
 */
public record News(
        Target target,
        Instant since,
        HowLong howLong,
        boolean free,
        @Nullable String orderOrNone) {

    /** A letter about something that opened longer ago says nothing that is of use: the past of a new school, for example. */
    private static final Duration NEW = Duration.ofDays(2);

    public static News of(Access access) {
        return new News(
                access.target(),
                access.window().start(),
                HowLong.of(access),
                access.entitlements().stream().allMatch(News::isFree),
                access.entitlements().stream()
                        .flatMap(it -> it.reason().bought().stream())
                        .map(bought -> bought.order().id())
                        .findFirst()
                        .orElse(null));
    }

    private static boolean isFree(Entitlement entitlement) {
        return entitlement
                .reason()
                .bought()
                .filter(bought -> bought.order().details().channel() == Channel.HAND
                        && bought.line().amount().signum() == 0)
                .isPresent();
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
