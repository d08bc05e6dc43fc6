package yoru.formats.imports;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
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

        /** The first way in which all of some days can be read; ISO where there is none. */
        public static Dates guess(List<String> days) {
            return Stream.of(values())
                    .filter(way -> days.stream().allMatch(way::reads))
                    .findFirst()
                    .orElse(ISO);
        }

        private boolean reads(String text) {
            try {
                day(text);
                return true;
            } catch (DateTimeException e) {
                return this == ISO && ImportReader.hasOffset(text);
            }
        }

        /** The day in front of what there is of a time. */
        LocalDate day(String text) {
            return LocalDate.parse(
                    text.strip().split("[T ]+", 2)[0].replaceAll("[./]", "-"),
                    DateTimeFormatter.ofPattern(pattern, Locale.ROOT).withResolverStyle(ResolverStyle.STRICT));
        }

        Dates(String pattern) {
            this.pattern = pattern;
        }
    }
}
