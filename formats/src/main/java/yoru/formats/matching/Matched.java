package yoru.formats.matching;

import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import yoru.formats.Fault;

/**
 * What a report comes to under a matching.
 *
 * @param events the facts, as CloudEvents in JSON; none where something is wrong
 * @param values what each of Yoru's fields got, also where something is wrong; of lines, one below the other
 * @param faults what is wrong, by field
 * @param told whether a rule fits it at all; where none does it is set aside
 */
public record Matched(List<JsonNode> events, Map<String, String> values, List<Fault> faults, boolean told) {
    public Matched {
        events = List.copyOf(events);
        values = Map.copyOf(values);
        faults = List.copyOf(faults);
    }
}
