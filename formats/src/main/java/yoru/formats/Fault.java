package yoru.formats;

/**
 * One thing wrong with a document.
 *
 * @param field where, as a path in the document: {@code data.lines[0].amount}
 * @param problem what is wrong and what is allowed
 */
public record Fault(String field, String problem) {
    @Override
    public String toString() {
        return field.isEmpty() ? problem : field + ": " + problem;
    }
}
