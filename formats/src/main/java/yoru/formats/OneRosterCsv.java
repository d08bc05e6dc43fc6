package yoru.formats;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Who is in which course, as the files of 1EdTech OneRoster 1.1 CSV in bulk mode, in which {@code status} and
 * {@code dateLastModified} stay empty. Each course has one class.
 */
public final class OneRosterCsv {

    private static final String ORG = "school";
    private static final String YEAR = "year";
    private static final String TERM = "term";

    /** The files that a bulk export can have, and whether this one has them. */
    private static final Map<String, Boolean> FILES = new LinkedHashMap<>();

    static {
        for (String file : List.of("academicSessions", "classes", "courses", "enrollments", "orgs", "users")) {
            FILES.put(file, true);
        }
        for (String file : List.of(
                "categories",
                "classResources",
                "courseResources",
                "demographics",
                "lineItems",
                "resources",
                "results")) {
            FILES.put(file, false);
        }
    }

    private OneRosterCsv() {}

    /**
     * A roster.
     *
     * @param from the first day of the time that it is about
     * @param to the day after its last
     */
    public record Roster(
            String school,
            LocalDate from,
            LocalDate to,
            List<RosterCourse> courses,
            List<Learner> learners,
            List<Enrolment> enrolments) {
        public Roster {
            courses = List.copyOf(courses);
            learners = List.copyOf(learners);
            enrolments = List.copyOf(enrolments);
        }
    }

    public record RosterCourse(String id, String title) {}

    /** @param name empty = none is known */
    public record Learner(String id, String address, String name) {}

    /** @param to the day after the last on which it is open; none = without end */
    public record Enrolment(String learner, String course, LocalDate from, Optional<LocalDate> to) {}

    /** The files' contents by their names, the manifest first. */
    public static Map<String, String> files(Roster roster) {
        var files = new LinkedHashMap<String, String>();
        files.put("manifest.csv", manifest());
        files.put("academicSessions.csv", sessions(roster));
        files.put(
                "orgs.csv",
                table(
                        "sourcedId,status,dateLastModified,name,type,identifier,parentSourcedId",
                        Stream.of(List.of(ORG, "", "", roster.school, "school", "", ""))));
        files.put(
                "courses.csv",
                table(
                        "sourcedId,status,dateLastModified,schoolYearSourcedId,title,courseCode,grades,orgSourcedId,subjects,subjectCodes",
                        roster.courses.stream()
                                .map(it -> List.of(course(it.id), "", "", YEAR, it.title, it.id, "", ORG, "", ""))));
        files.put(
                "classes.csv",
                table(
                        "sourcedId,status,dateLastModified,title,grades,courseSourcedId,classCode,classType,location,schoolSourcedId,termSourcedIds,subjects,subjectCodes,periods",
                        roster.courses.stream()
                                .map(it -> List.of(
                                        classOf(it.id),
                                        "",
                                        "",
                                        it.title,
                                        "",
                                        course(it.id),
                                        it.id,
                                        "scheduled",
                                        "",
                                        ORG,
                                        TERM,
                                        "",
                                        "",
                                        ""))));
        files.put(
                "users.csv",
                table(
                        "sourcedId,status,dateLastModified,enabledUser,orgSourcedIds,role,username,userIds,givenName,familyName,middleName,identifier,email,sms,phone,agentSourcedIds,grades,password",
                        roster.learners.stream().map(OneRosterCsv::user)));
        files.put(
                "enrollments.csv",
                table(
                        "sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role,primary,beginDate,endDate",
                        roster.enrolments.stream()
                                .map(it -> List.of(
                                        it.learner + "-" + it.course + "-" + it.from,
                                        "",
                                        "",
                                        classOf(it.course),
                                        ORG,
                                        it.learner,
                                        "student",
                                        "false",
                                        it.from.toString(),
                                        it.to.map(LocalDate::toString).orElse("")))));
        return files;
    }

    private static String manifest() {
        var lines = new ArrayList<List<String>>();
        lines.add(List.of("manifest.version", "1.0"));
        lines.add(List.of("oneroster.version", "1.1"));
        FILES.forEach((file, there) -> lines.add(List.of("file." + file, there ? "bulk" : "absent")));
        lines.add(List.of("source.systemName", "Yoru"));
        lines.add(List.of("source.systemCode", "yoru"));
        return table("propertyName,value", lines.stream());
    }

    /** A term stands within a year. */
    private static String sessions(Roster roster) {
        var from = roster.from.toString();
        var to = roster.to.toString();
        var year = String.valueOf(roster.from.getYear());
        return table(
                "sourcedId,status,dateLastModified,title,type,startDate,endDate,parentSourcedId,schoolYear",
                Stream.of(
                        List.of(YEAR, "", "", year, "schoolYear", from, to, "", year),
                        List.of(TERM, "", "", year, "term", from, to, YEAR, year)));
    }

    /** Given and family name must be there: the last word of a name is taken for the family's. */
    private static List<String> user(Learner learner) {
        var name = learner.name.isBlank() ? learner.address : learner.name.strip();
        int space = name.lastIndexOf(' ');
        return List.of(
                learner.id,
                "",
                "",
                "true",
                ORG,
                "student",
                learner.address,
                "",
                space < 0 ? name : name.substring(0, space),
                space < 0 ? "-" : name.substring(space + 1),
                "",
                "",
                learner.address.contains("@") ? learner.address : "",
                "",
                "",
                "",
                "",
                "");
    }

    private static String course(String id) {
        return "course-" + id;
    }

    private static String classOf(String course) {
        return "class-" + course;
    }

    private static String table(String heading, Stream<List<String>> rows) {
        return rows.map(row -> row.stream().map(AccessCsv::quoted).collect(Collectors.joining(",", "", "\n")))
                .collect(Collectors.joining("", heading + "\n", ""));
    }
}
