package yoru.server.rehearsals;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.rehearsal.Report;
import yoru.core.systems.Wish;

/**
 * What came of a story, as the browser shows it.
 *
 * @param holds whether everything is as it should be
 */
public record RehearsalReport(String title, boolean holds, int expectations, List<RehearsedStep> steps) {

    /**
     * @param place where the step stands in the document
     * @param does what is done, in words
     * @param meets what is met after buying, and from then on at doors that have closed, in words
     * @param passages what came by itself since the step before, then what came of this one
     * @param people how everybody stands after it
     */
    public record RehearsedStep(
            String place,
            Instant at,
            boolean before,
            String does,
            List<String> remarks,
            List<String> meets,
            List<RehearsedPassage> passages,
            List<RehearsedStanding> people,
            List<RehearsedExpectation> expected) {}

    /** @param standing how everybody stands then */
    public record RehearsedPassage(Instant at, List<RehearsedFor> people, List<RehearsedStanding> standing) {}

    /** @param sent what systems are told, each thing as it is sent */
    public record RehearsedFor(
            String person,
            String name,
            List<RehearsedMove> moved,
            List<RehearsedFollowup> followups,
            List<RehearsedTelling> told,
            List<RehearsedMessage> sent,
            List<RehearsedLetter> letters) {}

    /** @param howLong in words; of what ended empty */
    public record RehearsedMove(String target, String title, Report.Move move, String howLong, String why) {}

    public record RehearsedFollowup(Instant at, String followup, String title, String does) {}

    public record RehearsedTelling(String system, String title, List<String> says) {}

    /**
     * @param says what it means, in words
     * @param text the request, or the line of a file; for a name that only the system knows the person's address stands
     */
    public record RehearsedMessage(String system, String says, String text) {}

    /** @param followup that writes it; none = it says what opened */
    public record RehearsedLetter(
            String to,
            String subject,
            String text,
            @Nullable String followup) {}

    /** @param joinedInto whom they are part of by now; none = they are themselves */
    public record RehearsedStanding(
            String person,
            String name,
            @Nullable String joinedInto,
            List<RehearsedOpen> open,
            List<RehearsedTelling> held) {}

    public record RehearsedOpen(String target, String title, String howLong, String why) {}

    public record RehearsedExpectation(boolean holds, String sentence) {}

    /** How something is sent to its system, for one of the people; nothing where the system is not there any more. */
    interface Messages {
        Optional<String> of(String person, Wish wish);
    }

    static RehearsalReport of(Report report, Messages messages) {
        return new RehearsalReport(
                report.script().title(),
                report.holds(),
                report.expectations(),
                report.steps().stream().map(it -> step(it, messages)).toList());
    }

    private static RehearsedStep step(Report.Step step, Messages messages) {
        return new RehearsedStep(
                step.place(),
                step.at(),
                step.isBefore(),
                step.does(),
                step.remarks(),
                step.meets(),
                step.passages().stream()
                        .map(it -> new RehearsedPassage(
                                it.at(),
                                it.people().stream()
                                        .map(came -> came(came, messages))
                                        .toList(),
                                standings(it.standing())))
                        .toList(),
                standings(step.people()),
                step.expected().stream()
                        .map(it -> new RehearsedExpectation(it.holds(), it.sentence()))
                        .toList());
    }

    private static List<RehearsedStanding> standings(List<Report.Standing> people) {
        return people.stream().map(RehearsalReport::standing).toList();
    }

    private static RehearsedFor came(Report.Came came, Messages messages) {
        return new RehearsedFor(
                came.person(),
                came.name(),
                came.moved().stream()
                        .map(it -> new RehearsedMove(it.target().path(), it.title(), it.move(), it.howLong(), it.why()))
                        .toList(),
                came.followups().stream()
                        .map(it -> new RehearsedFollowup(it.at(), it.followup(), it.title(), it.does()))
                        .toList(),
                told(came.told()),
                came.wanted().stream()
                        .flatMap(it -> messages.of(came.person(), it.wish()).stream()
                                .map(text -> new RehearsedMessage(it.wish().system(), it.says(), text)))
                        .toList(),
                came.letters().stream()
                        .map(it -> new RehearsedLetter(it.to(), it.subject(), it.text(), it.followup()))
                        .toList());
    }

    private static RehearsedStanding standing(Report.Standing standing) {
        return new RehearsedStanding(
                standing.person(),
                standing.name(),
                standing.joinedInto(),
                standing.open().stream()
                        .map(it -> new RehearsedOpen(it.target().path(), it.title(), it.howLong(), it.why()))
                        .toList(),
                told(standing.held()));
    }

    private static List<RehearsedTelling> told(List<Report.Told> told) {
        return told.stream()
                .map(it -> new RehearsedTelling(it.system(), it.title(), it.says()))
                .toList();
    }
}
