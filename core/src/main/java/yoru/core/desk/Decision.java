package yoru.core.desk;

import java.util.List;
import yoru.core.ledger.Fact;

/**
 * What an act comes to: facts to be kept, or why not.
 *
 * @param refusals empty where it can be done
 */
public record Decision(List<Fact> facts, List<Refusal> refusals) {

    public Decision {
        facts = List.copyOf(facts);
        refusals = List.copyOf(refusals);
    }

    /**
     * Something that is in the way.
     *
     * @param field of the act, as "items[0].price"; empty = the act as a whole
     */
    public record Refusal(String field, String problem) {}

    public boolean isRefused() {
        return !refusals.isEmpty();
    }
}
