package yoru.core.segments;

import java.time.LocalDate;
import java.time.Period;
import yoru.core.followup.PurchaseCount.Counts;
import yoru.core.followup.PurchaseSet;
import yoru.core.rulebook.Target;

/** Something that is so of a person at the as-of time, or is not. */
public sealed interface Criterion {

    /** The target is open to them. */
    record Has(Target target) implements Criterion {}

    /** It was open to them, and is not any more. */
    record Had(Target target) implements Criterion {}

    /**
     * It is open to them and ends within the period, for good. What goes on when it is paid for again does not count.
     *
     * @param within counted on the school's calendar from the as-of time
     */
    record WillLose(Target target, Period within) implements Criterion {}

    /** The same of any course. */
    record LosesACourse(Period within) implements Criterion {}

    /** They bought something of a set. */
    record Bought(PurchaseSet set, Counts counts) implements Criterion {}

    /**
     * The first thing of a set that they bought and paid for was ordered on one of these days.
     *
     * @param from the first day, as the school counts days
     * @param to the last day
     */
    record FirstBought(PurchaseSet set, LocalDate from, LocalDate to) implements Criterion {}

    /** A level of theirs has a place left for the course, and it is not open to them. */
    record CouldChoose(String course) implements Criterion {}

    /** The words are in their name or address, in whatever case. */
    record Called(String words) implements Criterion {}
}
