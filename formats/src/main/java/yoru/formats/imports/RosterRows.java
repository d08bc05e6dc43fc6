package yoru.formats.imports;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.formats.matching.Rows;

/** The students of a roster in OneRoster 1.1 CSV as one table of enrolments. */
public final class RosterRows {

    private static final List<String> COLUMNS = List.of("person", "name", "course", "from", "until");

    private RosterRows() {}

    /**
     * Puts users, classes, courses and enrolments together; a course is named by its code, else by its id.
     *
     * @param files contents by name
     * @throws UnreadableException naming what is missing
     */
    public static Rows of(Map<String, String> files) {
        var users = byId(table(files, "users.csv"));
        var classes = byId(table(files, "classes.csv"));
        var courses = files.containsKey("courses.csv")
                ? byId(table(files, "courses.csv"))
                : Map.<String, Map<String, String>>of();
        var rows = new ArrayList<Rows.Row>();
        for (Map<String, String> enrolment : table(files, "enrollments.csv")) {
            if (!text(enrolment, "role").equals("student")
                    || text(enrolment, "status").equals("tobedeleted")) {
                continue;
            }
            var user = users.getOrDefault(text(enrolment, "userSourcedId"), Map.of());
            var course = classes.getOrDefault(text(enrolment, "classSourcedId"), Map.of());
            var id = text(course, "courseSourcedId");
            var code = text(courses.getOrDefault(id, Map.of()), "courseCode");
            rows.add(new Rows.Row(
                    rows.size() + 2L,
                    List.of(
                            text(user, "email").isEmpty() ? text(user, "username") : text(user, "email"),
                            (text(user, "givenName") + " " + text(user, "familyName"))
                                    .replaceAll(" -$", "")
                                    .strip(),
                            code.isEmpty() ? id : code,
                            text(enrolment, "beginDate"),
                            text(enrolment, "endDate")),
                    true));
        }
        return new Rows(COLUMNS, rows);
    }

    private static String text(Map<String, String> row, String column) {
        return row.getOrDefault(column, "").strip();
    }

    private static Map<String, Map<String, String>> byId(List<Map<String, String>> rows) {
        Map<String, Map<String, String>> byId = new HashMap<>();
        rows.forEach(row -> byId.putIfAbsent(text(row, "sourcedId"), row));
        return byId;
    }

    private static List<Map<String, String>> table(Map<String, String> files, String name) {
        var content = files.get(name);
        if (content == null) {
            throw new UnreadableException(List.of(new Fault(name, "is not in the roster")));
        }
        var rows = Rows.read(content);
        return rows.rows().stream()
                .map(row -> {
                    Map<String, String> cells = new HashMap<>();
                    for (int at = 0;
                            at < Math.min(rows.columns().size(), row.cells().size());
                            at++) {
                        cells.put(rows.columns().get(at), row.cells().get(at));
                    }
                    return cells;
                })
                .toList();
    }
}
