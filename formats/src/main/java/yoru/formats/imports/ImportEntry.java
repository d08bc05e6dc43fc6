package yoru.formats.imports;

import java.util.List;
import tools.jackson.databind.JsonNode;
import yoru.core.ledger.Fact;

/**
 * What rows that belong together come to: all rows of an order, or a single row.
 *
 * @param rows their numbers in the table
 * @param person whom they are about, in its plain form; empty where that cannot be read
 * @param name how the person is called; empty = it is not said
 * @param facts none where something is wrong, and of people alone
 * @param faults what is wrong, in words; then nothing of it can be taken
 * @param remarks what to know about it, in words
 */
public record ImportEntry(
        List<Long> rows,
        String person,
        String name,
        List<ImportedFact> facts,
        List<String> faults,
        List<String> remarks) {
    public ImportEntry {
        rows = List.copyOf(rows);
        facts = List.copyOf(facts);
        faults = List.copyOf(faults);
        remarks = List.copyOf(remarks);
    }

    /** A fact, and the event that says it. */
    public record ImportedFact(Fact fact, JsonNode event) {}

    /** The number of its first row; no two entries of a table have the same. */
    public long number() {
        return rows.getFirst();
    }

    public boolean isFaulty() {
        return !faults.isEmpty();
    }
}
