package yoru.core.rulebook;

import java.time.ZoneId;
import java.util.Currency;

/**
 * What holds for the whole school.
 *
 * @param zone in which periods are counted
 */
public record School(ZoneId zone, Currency currency, OpensOn opensOn) {}
