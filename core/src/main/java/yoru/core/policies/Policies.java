package yoru.core.policies;

import java.time.Instant;
import java.time.Period;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.time.SchoolCalendar;

/**
 * What a school does with reports about people whom it does not know, or knows under another name, and with gifts that nobody
 * takes up.
 *
 * @param giftsKeptFor how long a gift's letter can be used; none = without end
 * @param late after how long follow-ups no longer write about what happened
 * @param outwards what becomes of tags, lists and fields of somebody whom a system of contacts does not know
 * @param ownPage whether letters carry a link to a page of the reader's own
 * @param guestsProve whether a guest's order that waits is let in once they have proved that the address is theirs
 */
public record Policies(
        Guests guests,
        UnknownContacts unknownContacts,
        Joining joining,
        @Nullable Period giftsKeptFor,
        Period late,
        UnknownContacts outwards,
        boolean ownPage,
        boolean guestsProve) {

    private static final Period TWO_DAYS = Period.ofDays(2);

    /** Nothing waits or ends: whoever is reported becomes known, and nobody is joined unless somebody says so. */
    public static final Policies DEFAULT = new Policies(Guests.MAKE, UnknownContacts.MAKE, Joining.ASK, null);

    /** With the usual time after which it is too late to write, and contacts made where they are needed. */
    public Policies(Guests guests, UnknownContacts unknownContacts, Joining joining, @Nullable Period giftsKeptFor) {
        this(guests, unknownContacts, joining, giftsKeptFor, TWO_DAYS, UnknownContacts.MAKE, true, false);
    }

    public Policies withLate(Period other) {
        return new Policies(guests, unknownContacts, joining, giftsKeptFor, other, outwards, ownPage, guestsProve);
    }

    public Policies withOutwards(UnknownContacts other) {
        return new Policies(guests, unknownContacts, joining, giftsKeptFor, late, other, ownPage, guestsProve);
    }

    public Policies withGuestsProve(boolean other) {
        return new Policies(guests, unknownContacts, joining, giftsKeptFor, late, outwards, ownPage, other);
    }

    /** From when on it is not too late to write about something. */
    public Instant stillWrites(Instant now, SchoolCalendar calendar) {
        return calendar.minus(now, late);
    }

    /** What becomes of an order by somebody without an account in the shop. */
    public enum Guests {
        /** It counts like any other; the address becomes a person. */
        MAKE,
        /** It waits for somebody to look at it. */
        HOLD
    }

    /** What becomes of a tag, level or finished course of somebody nobody has heard of, here or there. */
    public enum UnknownContacts {
        MAKE,
        HOLD,
        SKIP
    }

    /** When two keys become one person without anybody saying so. */
    public enum Joining {
        /** Never; they are shown, and somebody decides. */
        ASK,
        /** When a system says that it has verified the address under which the other is known. */
        SAME_VERIFIED_ADDRESS
    }

    /** What is to be done with a report. */
    public enum Verdict {
        TAKE,
        HOLD_GUEST,
        HOLD_UNKNOWN,
        /** It is about an order that nobody has heard of yet, which may turn out to be a guest's. */
        HOLD_EARLY,
        SKIP_UNKNOWN
    }

    /**
     * How a system says that it knows the person of a report.
     *
     * @param guest whether they bought without an account
     * @param verified the address that the system has verified, if it says so
     */
    public record Introduction(boolean guest, Optional<String> verified) {

        /** The verified address, where it is another one than the subject. */
        public Optional<String> sameAs(String subject) {
            return verified.map(address -> address.strip().toLowerCase(Locale.ROOT))
                    .filter(address -> address.contains("@") && !address.equals(subject));
        }
    }

    /**
     * Asks only what it has to know.
     *
     * @param known whether anything but such reports is known of the person
     * @param heardOf whether the order is known that it is about; of other things it does not matter
     */
    public Verdict on(Fact fact, Introduction introduction, BooleanSupplier known, BooleanSupplier heardOf) {
        var ofAStranger = ofAStranger(fact, introduction, heardOf);
        return ofAStranger == Verdict.TAKE || known.getAsBoolean() ? Verdict.TAKE : ofAStranger;
    }

    private Verdict ofAStranger(Fact fact, Introduction introduction, BooleanSupplier heardOf) {
        return switch (fact.happening()) {
            case Happening.OrderPlaced _ -> introduction.guest ? onGuest() : Verdict.TAKE;
            case Happening.TagAdded _,
                    Happening.TagRemoved _,
                    Happening.ListLeft _,
                    Happening.ListJoined _,
                    Happening.AccountMade _,
                    Happening.LevelStarted _,
                    Happening.LevelEnded _,
                    Happening.CourseCompleted _,
                    Happening.CourseChosen _,
                    Happening.CourseReleased _ -> onUnknownContact();
            case Happening.OfFollowup _ -> Verdict.TAKE;
            case Happening.OfOrder _ ->
                guests == Guests.MAKE || heardOf.getAsBoolean() ? Verdict.TAKE : Verdict.HOLD_EARLY;
            // a subscription or something given makes a person known
            case Happening.OfSubscription _,
                    Happening.OfGrant _,
                    Happening.PersonMerged _,
                    Happening.PersonParted _,
                    Happening.PersonErased _,
                    Happening.Unknown _ -> Verdict.TAKE;
        };
    }

    private Verdict onGuest() {
        return switch (guests) {
            case MAKE -> Verdict.TAKE;
            case HOLD -> Verdict.HOLD_GUEST;
        };
    }

    private Verdict onUnknownContact() {
        return switch (unknownContacts) {
            case MAKE -> Verdict.TAKE;
            case HOLD -> Verdict.HOLD_UNKNOWN;
            case SKIP -> Verdict.SKIP_UNKNOWN;
        };
    }

    /** The address of the person with whom the subject of a report is to be joined without anybody saying so. */
    public Optional<String> joins(String subject, Introduction introduction) {
        return switch (joining) {
            case ASK -> Optional.empty();
            case SAME_VERIFIED_ADDRESS -> introduction.sameAs(subject);
        };
    }

    /** Until when a letter that went out at a time can be used, exclusive; none = without end. */
    public Optional<Instant> giftEnds(Instant sent, SchoolCalendar calendar) {
        return Optional.ofNullable(giftsKeptFor).map(period -> calendar.plus(sent, period));
    }
}
