package yoru.server.rulebooks;

import java.time.Instant;
import java.util.List;

/**
 * That a rulebook came into force.
 *
 * @param difference from the one before, in words
 * @param gained how many people gained something by it
 */
public record Publish(
        int number, String note, String by, Instant at, List<String> difference, int gained, int lost, int otherEnd) {}
