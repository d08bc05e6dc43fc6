package yoru.core.rulebook;

import java.time.ZoneId;
import java.util.Currency;
import java.util.List;

/**
 * What holds for the whole school.
 *
 * @param zone in which periods are counted
 * @param tiers lowest first
 */
public record School(ZoneId zone, Currency currency, List<String> tiers, OpensOn opensOn, List<Ladder> ladders) {

    public School {
        tiers = List.copyOf(tiers);
        ladders = List.copyOf(ladders);
    }

    public School(ZoneId zone, Currency currency, OpensOn opensOn) {
        this(zone, currency, List.of(), opensOn, List.of());
    }
}
