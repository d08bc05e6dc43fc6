package yoru.core.desk;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.Period;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Target;

/** Something to be done at the desk. */
public sealed interface Act {

    /** The order that it is about or makes. */
    default Optional<String> aboutOrMakes() {
        return switch (this) {
            case Sell it -> Optional.of(it.order());
            case AboutOrder it -> Optional.of(it.order());
            case AboutPerson _ -> Optional.empty();
        };
    }

    /** What is done about an order that there is. */
    sealed interface AboutOrder extends Act {
        String order();
    }

    /** What is done about one person. */
    sealed interface AboutPerson extends Act {
        String person();
    }

    /**
     * An order by hand.
     *
     * @param order under which id it will be known
     */
    record Sell(String order, String person, List<Item> items, Payment payment) implements AboutPerson {
        public Sell {
            items = List.copyOf(items);
        }
    }

    /**
     * One line of an order by hand.
     *
     * @param price of one, in the school's currency
     * @param off what is taken off the whole line
     * @param giftTo the address of whom it is for, where that is somebody else
     * @param giftOn from which day on they are to know of it; none = at once
     */
    record Item(
            String product,
            @Nullable String option,
            int quantity,
            BigDecimal price,
            BigDecimal off,
            @Nullable String giftTo,
            @Nullable LocalDate giftOn) {}

    /** How an order by hand is paid. */
    sealed interface Payment {

        /** The total is zero. */
        record Free(String reason) implements Payment {}

        record Already(String method, String reference) implements Payment {}

        /** @param opensNow before it is paid */
        record Later(boolean opensNow, @Nullable LocalDate payBy) implements Payment {}

        /** A method of payment that the buyer left with a shop is charged; it is paid once the shop says so. */
        record OnFile() implements Payment {}
    }

    record Pay(String order, String method, String reference) implements AboutOrder {}

    record PayInstalment(String order, String line, int number) implements AboutOrder {}

    record Invoice(String order, String number, @Nullable LocalDate payBy) implements AboutOrder {}

    record Fulfil(String order) implements AboutOrder {}

    record Cancel(String order) implements AboutOrder {}

    /**
     * @param line none = the whole order
     * @param amount none = all that is left
     */
    record Refund(
            String order, @Nullable String line, @Nullable BigDecimal amount, String reason) implements AboutOrder {}

    /** A seat or a gift is taken up for somebody. */
    record Claim(String order, String line, int seat, String person) implements AboutOrder {}

    /** The free seats of a line are taken up by some people, the lowest first. */
    record Assign(String order, String line, List<String> people) implements AboutOrder {
        public Assign {
            people = List.copyOf(people);
        }
    }

    /** @param length none = until it is ended */
    record Give(
            String person, List<Destination> to, @Nullable Period length, String reason) implements AboutPerson {
        public Give {
            to = List.copyOf(to);
        }
    }

    /** What is open is kept open for longer, counted from where it would end. */
    record Extend(String person, Target target, Period by, String reason) implements AboutPerson {}

    record EndGrant(String person, String grant) implements AboutPerson {}

    record Choose(String person, String course) implements AboutPerson {}

    record Release(String person, String course) implements AboutPerson {}

    record EndSubscription(String person, String subscription, boolean atPeriodEnd) implements AboutPerson {}

    record StartLevel(String person, String level) implements AboutPerson {}

    record EndLevel(String person, String level) implements AboutPerson {}

    /**
     * Another level takes the place of one that the person has.
     *
     * @param returned courses chosen so far that are given back with it
     * @param follows whether it lasts as long as what pays for the level before; otherwise until that which is paid for
     *     now is over
     */
    record ChangeLevel(String person, String from, String to, List<String> returned, boolean follows, String reason)
            implements AboutPerson {
        public ChangeLevel {
            returned = List.copyOf(returned);
        }
    }

    record AddTag(String person, String tag) implements AboutPerson {}

    record RemoveTag(String person, String tag) implements AboutPerson {}

    /** All that the person has counts for somebody else from now on, and from before. */
    record Join(String person, String into) implements AboutPerson {}

    /** A person who was joined with another is on their own again. */
    record Part(String person) implements AboutPerson {}

    /** All that the person has ends, for good; what others have of their orders stays. */
    record Erase(String person) implements AboutPerson {}
}
