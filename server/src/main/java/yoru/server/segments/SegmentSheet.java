package yoru.server.segments;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import yoru.core.followup.PurchaseCount.Counts;
import yoru.core.followup.PurchaseSet;
import yoru.core.rulebook.Target;
import yoru.core.segments.Criterion;
import yoru.core.segments.Segment;
import yoru.server.platform.ProblemException;

/**
 * A segment as the browser writes it, and as it is kept.
 *
 * @param any whether one of the conditions is enough
 */
record SegmentSheet(boolean any, @NotNull @Size(max = 20) List<@NotNull @Valid ConditionSheet> conditions) {

    enum Kind {
        HAS,
        HAD,
        WILL_LOSE,
        LOSES_A_COURSE,
        BOUGHT,
        FIRST_BOUGHT,
        COULD_CHOOSE,
        CALLED
    }

    /**
     * One condition; which of the rest it needs depends on its kind.
     *
     * @param not whether it must not be so
     * @param target as a path, of HAS, HAD and WILL_LOSE
     * @param within ISO 8601 period, of WILL_LOSE and LOSES_A_COURSE
     * @param products ids, of BOUGHT and FIRST_BOUGHT
     * @param categories of products, of BOUGHT and FIRST_BOUGHT
     * @param counts of BOUGHT; none = paid
     * @param from the first day, of FIRST_BOUGHT
     * @param to the last day, of FIRST_BOUGHT
     * @param course its id, of COULD_CHOOSE
     * @param words of CALLED
     */
    record ConditionSheet(
            @NotNull Kind kind,
            boolean not,
            @Nullable @Size(max = 400) String target,
            @Nullable @Size(max = 40) String within,
            @Nullable @Size(max = 100) List<@NotNull String> products,
            @Nullable @Size(max = 100) List<@NotNull String> categories,
            @Nullable Counts counts,
            @Nullable LocalDate from,
            @Nullable LocalDate to,
            @Nullable @Size(max = 200) String course,
            @Nullable @Size(max = 200) String words) {}

    /** @throws ProblemException naming every field that is missing or cannot be read */
    Segment segment() {
        var faults = new ArrayList<Map<String, String>>();
        var read = new ArrayList<Segment.Condition>();
        for (int at = 0; at < conditions.size(); at++) {
            new Reading(conditions.get(at), "conditions[" + at + "].", faults).into(read);
        }
        if (!faults.isEmpty()) {
            throw new ProblemException(
                    HttpStatus.BAD_REQUEST,
                    "This segment is not complete",
                    String.join(
                                    "; ",
                                    faults.stream()
                                            .map(fault -> fault.get("field") + " " + fault.get("problem"))
                                            .toList())
                            + ".",
                    Map.of("errors", faults));
        }
        return new Segment(any, read);
    }

    private record Reading(ConditionSheet sheet, String place, List<Map<String, String>> faults) {

        void into(List<Segment.Condition> read) {
            int before = faults.size();
            var criterion = criterion();
            if (faults.size() == before) {
                read.add(new Segment.Condition(sheet.not, criterion));
            }
        }

        private Criterion criterion() {
            return switch (sheet.kind) {
                case HAS -> new Criterion.Has(target());
                case HAD -> new Criterion.Had(target());
                case WILL_LOSE -> new Criterion.WillLose(target(), within());
                case LOSES_A_COURSE -> new Criterion.LosesACourse(within());
                case BOUGHT -> new Criterion.Bought(set(), Objects.requireNonNullElse(sheet.counts, Counts.PAID));
                case FIRST_BOUGHT -> new Criterion.FirstBought(set(), day(sheet.from, "from"), day(sheet.to, "to"));
                case COULD_CHOOSE -> new Criterion.CouldChoose(text(sheet.course, "course"));
                case CALLED -> new Criterion.Called(text(sheet.words, "words"));
            };
        }

        private Target target() {
            try {
                return Target.read(text(sheet.target, "target"));
            } catch (IllegalArgumentException e) {
                fault("target", "is nothing that can be opened");
                return new Target.OfCourse("");
            }
        }

        private Period within() {
            try {
                var period = Period.parse(text(sheet.within, "within"));
                if (!period.isNegative() && !period.isZero()) {
                    return period;
                }
            } catch (DateTimeException e) {
                // said below
            }
            fault("within", "must be a period, as P14D");
            return Period.ZERO;
        }

        private PurchaseSet set() {
            var products = Set.copyOf(Objects.requireNonNullElse(sheet.products, List.<String>of()));
            var categories = Set.copyOf(Objects.requireNonNullElse(sheet.categories, List.<String>of()));
            if (products.isEmpty() && categories.isEmpty()) {
                fault("products", "must name what was bought");
            }
            return new PurchaseSet(products, Set.of(), categories);
        }

        private LocalDate day(@Nullable LocalDate day, String field) {
            if (day == null) {
                fault(field, "must be a day");
            }
            return Objects.requireNonNullElse(day, LocalDate.EPOCH);
        }

        private String text(@Nullable String text, String field) {
            if (text == null || text.isBlank()) {
                fault(field, "must not be empty");
                return "";
            }
            return text.strip();
        }

        /** One for each field. */
        private void fault(String field, String problem) {
            if (faults.stream().noneMatch(known -> (place + field).equals(known.get("field")))) {
                faults.add(Map.of("field", place + field, "problem", problem));
            }
        }
    }
}
