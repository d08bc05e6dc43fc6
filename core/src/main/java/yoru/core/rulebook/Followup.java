package yoru.core.rulebook;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalTime;
import java.time.Period;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What else is done when something has happened to somebody.
 *
 * @param on whether it serves anything new
 * @param sinceOrNone occasions before it are not served; none = none is too early
 * @param eachLine whether each line of an order is an occasion of its own
 * @param statedOnce how often it serves, where that is said
 * @param only all of these must hold for it to be served
 * @param whilst all of these must hold after each wait
 * @param always whether what it gives lasts for good, and not as long as its cause
 * @param rows for which things it serves, and what is different for each; empty = one for all alike
 */
public record Followup(
        String id,
        String title,
        boolean on,
        @Nullable Instant sinceOrNone,
        When when,
        boolean eachLine,
        @Nullable Once statedOnce,
        List<Condition> only,
        List<Condition> whilst,
        boolean always,
        List<Step> steps,
        List<Row> rows) {

    public Followup {
        only = List.copyOf(only);
        whilst = List.copyOf(whilst);
        steps = List.copyOf(steps);
        rows = List.copyOf(rows);
    }

    public Optional<Instant> since() {
        return Optional.ofNullable(sinceOrNone);
    }

    /** The same, serving nothing new. */
    public Followup switchedOff() {
        return new Followup(
                id, title, false, sinceOrNone, when, eachLine, statedOnce, only, whilst, always, steps, rows);
    }

    /** How often it serves one person. */
    public enum Once {
        ALWAYS,
        ORDER,
        THING,
        PERSON
    }

    /** How often it serves. */
    public Once once() {
        if (statedOnce != null) {
            return statedOnce;
        }
        if (when instanceof When.Ending) {
            return Once.ALWAYS;
        }
        return hasThing() ? Once.THING : hasOrder() ? Once.ORDER : Once.PERSON;
    }

    /** Whether its occasions are about something that can have a row. */
    public boolean hasThing() {
        return switch (when) {
            case When.OfOrder _ -> eachLine;
            case When.Claimed _, When.OfSubscription _, When.Opened _, When.Ended _, When.Ending _, When.Completed _ ->
                true;
            case When.Account _ -> false;
        };
    }

    public boolean hasOrder() {
        return when instanceof When.OfOrder || when instanceof When.Claimed;
    }

    /** Things that are sold; a line is of the set when any of the three has it, every line where all are empty. */
    public record Sold(Set<String> products, Set<String> options, Set<String> categories) {

        public Sold {
            products = Set.copyOf(products);
            options = Set.copyOf(options);
            categories = Set.copyOf(categories);
        }

        public boolean isAnything() {
            return products.isEmpty() && options.isEmpty() && categories.isEmpty();
        }

        /** The products that can be of it, chosen with some option. */
        public List<Product> in(List<Product> all) {
            return all.stream().filter(this::has).toList();
        }

        private boolean has(Product product) {
            return isAnything()
                    || products.contains(product.id())
                    || product.categories().stream().anyMatch(categories::contains)
                    || product.options().stream().anyMatch(option -> options.contains(option.id()));
        }
    }

    /** What it waits for. */
    public sealed interface When {

        /** What became of an order. */
        enum Moment {
            PLACED,
            PAID,
            FULFILLED,
            CANCELLED,
            REFUNDED
        }

        record OfOrder(Moment moment, Sold of) implements When {}

        record Claimed(Sold of) implements When {}

        /** What became of a subscription. */
        enum Turn {
            STARTED,
            TRIAL,
            RENEWED,
            FAILED,
            CANCELLED
        }

        record OfSubscription(Turn turn, Sold of) implements When {}

        record Opened(List<Destination> targets) implements When {}

        record Ended(List<Destination> targets) implements When {}

        record Ending(List<Destination> targets, Period before) implements When {}

        record Completed(List<String> courses) implements When {}

        record Account(List<String> systems) implements When {}

        /** Whether a letter about it answers something the person did or agreed to, and is nothing they could call unasked. */
        default boolean isAnswered() {
            return switch (this) {
                case OfOrder _, Claimed _, OfSubscription _, Opened _, Completed _, Account _ -> true;
                case Ended _, Ending _ -> false;
            };
        }
    }

    /** What is asked at a moment, with all that is known then. */
    public sealed interface Condition {

        record Has(List<Destination> targets) implements Condition {}

        record Had(List<Destination> targets) implements Condition {}

        /** What an order must have come to. */
        enum Counts {
            PLACED,
            PAID,
            KEPT
        }

        record Bought(
                Sold of,
                Counts counts,
                @Nullable Integer atLeast,
                @Nullable Integer atMost) implements Condition {}

        record Amount(BigDecimal atLeast) implements Condition {}

        /** Whether it was entered by hand, or came from a shop. */
        record OfChannel(boolean byHand) implements Condition {}

        record Field(String name, String is) implements Condition {}

        record Any(List<Condition> of) implements Condition {}

        record Not(Condition of) implements Condition {}
    }

    /** A discount code of the person's own. */
    public record Code(
            @Nullable BigDecimal percent,
            @Nullable BigDecimal amount,
            @Nullable Sold of,
            @Nullable Period expires,
            @Nullable Integer uses) {}

    /** One thing to be done. */
    public sealed interface Step {

        record Give(List<Destination> to, @Nullable Period length) implements Step {}

        record Take(List<Destination> from) implements Step {}

        record SetField(String field, String value) implements Step {}

        record Write(String subject, String text, @Nullable Code code) implements Step {}

        record Tell(String text) implements Step {}

        record WaitFor(Period length) implements Step {}

        /** Until it is this time of the day in the school's zone. */
        record WaitUntil(LocalTime at) implements Step {}

        record If(List<Condition> of, List<Step> then, List<Step> otherwise) implements Step {}

        record Stop() implements Step {}
    }

    /**
     * What is different for one thing.
     *
     * @param product for which product; none = for a target
     */
    public record Row(@Nullable String product, @Nullable Destination target, Map<String, String> values) {

        public Row {
            values = Map.copyOf(values);
        }
    }

    /** Its steps and those within them. */
    public Stream<Step> allSteps() {
        return all(steps);
    }

    private static Stream<Step> all(List<Step> steps) {
        return steps.stream()
                .flatMap(step -> step instanceof Step.If it
                        ? Stream.of(Stream.of(step), all(it.then()), all(it.otherwise()))
                                .flatMap(within -> within)
                        : Stream.of(step));
    }

    /** Its variants: one for each row, or itself where there are none. */
    public Stream<Followup> variants() {
        return rows.isEmpty() ? Stream.of(this) : rows.stream().map(this::with);
    }

    /** The same, serving nothing before a time; none = none is too early. */
    public Followup beginningAt(@Nullable Instant since) {
        return new Followup(id, title, on, since, when, eachLine, statedOnce, only, whilst, always, steps, rows);
    }

    private static final Pattern ROW = Pattern.compile("\\{\\{\\s*row\\.([^{}\\s]+)\\s*}}");

    /** The same for one of its rows alone, with the row's values where ids and texts ask for them. */
    public Followup with(Row row) {
        UnaryOperator<String> fill = text -> ROW.matcher(text)
                .replaceAll(found -> Matcher.quoteReplacement(row.values.getOrDefault(found.group(1), "")));
        return new Followup(
                id,
                title,
                on,
                sinceOrNone,
                when,
                eachLine,
                statedOnce,
                only,
                whilst,
                always,
                filled(steps, fill),
                List.of(row));
    }

    private static List<Step> filled(List<Step> steps, UnaryOperator<String> fill) {
        return steps.stream().map(step -> filled(step, fill)).toList();
    }

    private static Step filled(Step step, UnaryOperator<String> fill) {
        return switch (step) {
            case Step.Give it -> new Step.Give(named(it.to, fill), it.length);
            case Step.Take it -> new Step.Take(named(it.from, fill));
            case Step.SetField it -> new Step.SetField(it.field, fill.apply(it.value));
            case Step.Write it -> new Step.Write(fill.apply(it.subject), fill.apply(it.text), it.code);
            case Step.Tell it -> new Step.Tell(fill.apply(it.text));
            case Step.If it -> new Step.If(it.of, filled(it.then, fill), filled(it.otherwise, fill));
            case Step.WaitFor _, Step.WaitUntil _, Step.Stop _ -> step;
        };
    }

    private static List<Destination> named(List<Destination> all, UnaryOperator<String> fill) {
        return all.stream().map(one -> named(one, fill)).toList();
    }

    private static Destination named(Destination one, UnaryOperator<String> fill) {
        return switch (one) {
            case Destination.OfCourse it -> new Destination.OfCourse(fill.apply(it.course()), it.upToTier());
            case Destination.OfCategory it ->
                new Destination.OfCategory(fill.apply(it.category()), it.except(), it.upToTier());
            case Destination.Exactly it -> new Destination.Exactly(named(it.target(), fill));
        };
    }

    private static Target named(Target target, UnaryOperator<String> fill) {
        return switch (target) {
            case Target.OfCourse it -> new Target.OfCourse(fill.apply(it.course()));
            case Target.OfSection it -> new Target.OfSection(fill.apply(it.course()), fill.apply(it.section()));
            case Target.OfTag it -> new Target.OfTag(fill.apply(it.tag()));
            case Target.OfLevel it -> new Target.OfLevel(fill.apply(it.level()));
            case Target.OfGroup it -> new Target.OfGroup(fill.apply(it.group()));
            case Target.OfArea it -> new Target.OfArea(fill.apply(it.area()));
            case Target.OfDownload it -> new Target.OfDownload(fill.apply(it.download()));
            case Target.OfList it -> new Target.OfList(fill.apply(it.list()));
        };
    }
}
