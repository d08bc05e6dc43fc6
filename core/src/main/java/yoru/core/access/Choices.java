package yoru.core.access;

import java.util.List;
import java.util.OptionalInt;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Level;

/**
 * How a person's allowance stands.
 *
 * @param places of each level that counts, in the rulebook's order
 * @param waiting courses that were chosen and have no place, in the order of choice
 */
public record Choices(List<Places> places, List<String> waiting) {

    public Choices {
        places = List.copyOf(places);
        waiting = List.copyOf(waiting);
    }

    /**
     * The places of one level.
     *
     * @param taken by which courses, in the order of choice
     * @param premiumTaken how many of those are premium
     */
    public record Places(Level level, Allowance allowance, List<String> taken, int premiumTaken) {

        public Places {
            taken = List.copyOf(taken);
        }

        public int left() {
            return allowance.courses() - taken.size();
        }

        /** How many of the places left can go to premium courses; none = as many as there are. */
        public OptionalInt premiumLeft() {
            return allowance.premium().isEmpty()
                    ? OptionalInt.empty()
                    : OptionalInt.of(Math.min(left(), allowance.premium().getAsInt() - premiumTaken));
        }
    }

    /** All places that are left. */
    public int left() {
        return places.stream().mapToInt(Places::left).sum();
    }
}
