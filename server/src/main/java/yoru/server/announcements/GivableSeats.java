package yoru.server.announcements;

import java.util.Optional;
import yoru.core.letters.OpeningLetter;

/** Knows the places of an order that its buyer can give to others, and makes the secret address under which they are given. */
public interface GivableSeats {

    /**
     * @param buyer whoever has bought them; of others' orders nobody learns anything
     * @return nothing where there are none, or the buyer has the address already
     */
    Optional<OpeningLetter.Seats> of(String order, String buyer);

    /** Whether the buyer of an order has the address already. */
    boolean areKnown(String order);
}
