package yoru.core.rulebook;

import java.time.ZoneId;
import java.util.Currency;
import java.util.List;

/**
 * What holds for the whole school.
 *
 * @param zone in which periods are counted
 * @param tiers lowest first
 * @param tagNames how tags of courses are called, at most one for each role
 */
public record School(
        ZoneId zone,
        Currency currency,
        List<String> tiers,
        OpensOn opensOn,
        List<Ladder> ladders,
        List<TagName> tagNames) {

    public School {
        tiers = List.copyOf(tiers);
        ladders = List.copyOf(ladders);
        tagNames = List.copyOf(tagNames);
    }

    public School(ZoneId zone, Currency currency, List<String> tiers, OpensOn opensOn, List<Ladder> ladders) {
        this(zone, currency, tiers, opensOn, ladders, List.of());
    }

    public School(ZoneId zone, Currency currency, OpensOn opensOn) {
        this(zone, currency, List.of(), opensOn, List.of());
    }
}
