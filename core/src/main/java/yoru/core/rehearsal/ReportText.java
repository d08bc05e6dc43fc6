package yoru.core.rehearsal;

import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import yoru.core.rehearsal.Report.Came;
import yoru.core.rehearsal.Report.Passage;
import yoru.core.rehearsal.Report.Step;

/** A report as text, for whoever reads it where there are no screens. */
public final class ReportText {

    private static final DateTimeFormatter MOMENT = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm", Locale.ROOT);

    private final ZoneId zone;
    private final List<String> lines = new ArrayList<>();

    private ReportText(ZoneId zone) {
        this.zone = zone;
    }

    /**
     * Its lines.
     *
     * @param zone of the school, in which moments are said
     */
    public static List<String> of(Report report, ZoneId zone) {
        var text = new ReportText(zone);
        text.lines.add(report.script().title() + " (" + report.script().id() + ")");
        report.steps().forEach(text::step);
        int not = report.notAsExpected().size();
        text.lines.add(
                not == 0
                        ? "  all %d as expected".formatted(report.expectations())
                        : "  %d of %d NOT as expected".formatted(not, report.expectations()));
        return text.lines;
    }

    private void step(Step step) {
        step.passages().stream().filter(it -> it.at().isBefore(step.at())).forEach(it -> {
            lines.add("  " + moment(it) + "  by itself");
            came(it);
        });
        lines.add("  " + MOMENT.format(step.at().atZone(zone)) + "  " + step.does());
        step.remarks().forEach(it -> lines.add("      note: " + it));
        step.meets().forEach(it -> lines.add("      meets " + it));
        step.passages().stream().filter(it -> !it.at().isBefore(step.at())).forEach(this::came);
        step.expected()
                .forEach(it ->
                        lines.add("      " + (it.holds() ? "as expected: " : "NOT as expected: ") + it.sentence()));
    }

    private String moment(Passage passage) {
        return MOMENT.format(passage.at().atZone(zone));
    }

    private void came(Passage passage) {
        boolean several = passage.people().size() > 1;
        for (Came came : passage.people()) {
            if (several) {
                lines.add("      " + came.name() + ":");
            }
            came.moved()
                    .forEach(it -> lines.add("      "
                            + switch (it.move()) {
                                case OPENED -> "opened: " + it.title() + " " + it.howLong() + because(it.why());
                                case CHANGED -> "now: " + it.title() + " " + it.howLong() + because(it.why());
                                case ENDED -> "ended: " + it.title() + because(it.why());
                            }));
            came.followups().forEach(it -> lines.add("      follow-up " + it.title() + ": " + it.does()));
            came.told().forEach(it -> lines.add("      " + it.title() + " is told: " + String.join("; ", it.says())));
            came.letters().forEach(it -> {
                lines.add("      letter to " + it.to() + ": " + it.subject());
                it.text().strip().lines().forEach(line -> lines.add("      | " + line));
            });
        }
    }

    private static String because(String why) {
        return why.isEmpty() ? "" : " (" + why + ")";
    }
}
