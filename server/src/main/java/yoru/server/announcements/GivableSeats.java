package yoru.server.announcements;

import java.util.Optional;
import yoru.core.letters.OpeningLetter;

/** Knows the places of an order that its buyer can give to others. */
public interface GivableSeats {

    /**
     * @param buyer whoever has bought them; of others' orders nobody learns anything
     * @param makeAddress whether the secret address is made under which they are given
     * @return nothing where there are none, or the buyer has the address already
     */
    Optional<OpeningLetter.Seats> of(String order, String buyer, boolean makeAddress);
}
