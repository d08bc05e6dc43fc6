package yoru.formats.imports;

import java.util.Map;
import yoru.formats.imports.ImportKind.Field;

/**
 * How a table is to be read.
 *
 * @param columns in which column each field is; fields that are in none are left out
 * @param dates how days are written
 */
public record ImportMatching(Map<Field, String> columns, Dates dates) {

    public ImportMatching {
        columns = Map.copyOf(columns);
    }

    /** How days are written; a time of day can follow. */
    public enum Dates {
        /** 2026-03-01, also with a time and an offset, as ISO 8601 has it. */
        ISO("uuuu-M-d"),
        /** 01/03/2026, 1.3.2026 or 1-3-2026. */
        DAY_FIRST("d-M-uuuu"),
        /** 03/01/2026. */
        MONTH_FIRST("M-d-uuuu");

        private final String pattern;

        Dates(String pattern) {
            this.pattern = pattern;
        }

        /** With hyphens, whatever stands between in the table. */
        String pattern() {
            return pattern;
        }
    }
}
