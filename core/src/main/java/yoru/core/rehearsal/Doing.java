package yoru.core.rehearsal;

import java.math.BigDecimal;
import java.time.Period;
import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Destination;

/** What a step of a story says. Orders, subscriptions and things given are named by their number in the story; none = its last. */
public sealed interface Doing {

    /** How an order is paid for. */
    enum Pays {
        NOW,
        LATER,
        /** Now, and the other parts later. */
        IN_PARTS,
        /** Not at all: all of it costs nothing. */
        ZERO
    }

    /** As whom the shop knows the buyer. */
    enum As {
        NEW,
        KNOWN,
        GUEST
    }

    /**
     * @param option none = none is chosen
     * @param amount of the whole line; none = what it costs
     * @param giftTo somebody of the story, or an address; none = it is no gift
     */
    record Item(
            String product,
            @Nullable String option,
            int quantity,
            @Nullable BigDecimal amount,
            @Nullable String giftTo) {}

    record Buys(List<Item> lines, Pays pays, As as) implements Doing {
        public Buys {
            lines = List.copyOf(lines);
        }
    }

    /** What becomes of a whole order. */
    enum Turn {
        PAYS,
        FULFILS,
        CANCELS
    }

    record Turns(Turn turn, @Nullable Integer order) implements Doing {}

    /**
     * @param line from 1 on; none = the whole order
     * @param amount none = all that is left of it
     */
    record Refunds(
            @Nullable Integer order,
            @Nullable Integer line,
            @Nullable BigDecimal amount) implements Doing {}

    record RefundsSubscription(int subscription) implements Doing {}

    /**
     * An instalment.
     *
     * @param isPaid whether it is, or fails
     * @param line none = the first in instalments
     */
    record Part(
            boolean isPaid,
            @Nullable Integer order,
            @Nullable Integer line,
            int number) implements Doing {}

    /**
     * @param line none = the first with such a seat
     * @param seat none = the first that is free
     */
    record Claims(
            @Nullable Integer order,
            @Nullable Integer line,
            @Nullable Integer seat) implements Doing {}

    /** @param trial how long it is free of charge; none = it is paid at once */
    record Subscribes(
            String product,
            @Nullable String option,
            @Nullable Period trial) implements Doing {}

    record Renews(@Nullable Integer subscription) implements Doing {}

    record Fails(@Nullable Integer subscription) implements Doing {}

    record Resigns(@Nullable Integer subscription, boolean atPeriodEnd) implements Doing {}

    /** What somebody does about a course. */
    enum Study {
        FINISHES,
        CHOOSES,
        RETURNS
    }

    record Studies(Study study, String course) implements Doing {}

    record Level(String level, boolean gets) implements Doing {}

    record Tag(String tag, boolean gets) implements Doing {}

    /** @param length none = without an end */
    record IsGiven(List<Destination> to, @Nullable Period length) implements Doing {
        public IsGiven {
            to = List.copyOf(to);
        }
    }

    record IsEnded(@Nullable Integer grant) implements Doing {}

    /** @param person who becomes part of whoever the step is about */
    record Joins(String person) implements Doing {}

    /** An order that was held counts. */
    record LetIn(@Nullable Integer order) implements Doing {}

    /** Says what should be so. */
    record Expects(Expectation expectation) implements Doing {}

    /** Only time passes. */
    record Nothing() implements Doing {}
}
