package yoru.server.systems;

import java.math.BigDecimal;
import java.time.Period;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.findings.CourseState;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;

/**
 * One thing as a system lists it.
 *
 * @param id stable, whatever the thing is called
 * @param details what else there is to say of things of its kind; none where there is nothing
 */
public record Listed(
        ItemKind kind,
        String id,
        String title,
        String category,
        @Nullable Object details) {

    /** What a listed thing is. */
    public enum ItemKind {
        PRODUCT,
        COURSE,
        GROUP,
        AREA,
        DOWNLOAD,
        LIST,
        TAG,
        /** Not a thing of a rulebook: how a shop lets people buy. */
        CHECKOUT;

        /** As what the rulebook lists such things. */
        public Optional<Sort> sort() {
            return Stream.of(Sort.values())
                    .filter(sort -> sort.name().equals(name()))
                    .findFirst();
        }

        public static ItemKind of(Sort sort) {
            return valueOf(sort.name());
        }
    }

    /** A thing that systems list, by its stable id. */
    public record Thing(ItemKind kind, String id) {

        /** As what a target is listed; a section comes with its course, levels are Yoru's own. */
        public static Optional<Thing> of(Target target) {
            return switch (target) {
                case Target.OfCourse it -> Optional.of(new Thing(ItemKind.COURSE, it.course()));
                case Target.OfSection it -> Optional.of(new Thing(ItemKind.COURSE, it.course()));
                case Target.OfGroup it -> Optional.of(new Thing(ItemKind.GROUP, it.group()));
                case Target.OfArea it -> Optional.of(new Thing(ItemKind.AREA, it.area()));
                case Target.OfDownload it -> Optional.of(new Thing(ItemKind.DOWNLOAD, it.download()));
                case Target.OfList it -> Optional.of(new Thing(ItemKind.LIST, it.list()));
                case Target.OfTag it -> Optional.of(new Thing(ItemKind.TAG, it.tag()));
                case Target.OfLevel _ -> Optional.empty();
            };
        }

        /** What it is when it is opened; a product is not. */
        public Optional<Target> asTarget() {
            return kind.sort().flatMap(sort -> sort.target(id));
        }
    }

    public Thing thing() {
        return new Thing(kind, id);
    }

    /**
     * What a shop says of a product.
     *
     * @param thing whether it is something to post
     * @param about as the shop describes it
     * @param seats whether several of it are places for several people; none = the shop does not say
     * @param plan how it is paid for over time; none = at once, or the shop does not say
     * @param options ways in which it is sold; none = the shop does not say
     * @param link puts it into the basket
     */
    public record ProductDetails(
            BigDecimal price,
            String currency,
            boolean thing,
            @Nullable String about,
            @Nullable Boolean seats,
            @Nullable Plan plan,
            @Nullable List<SoldOption> options,
            @Nullable String link) {}

    /**
     * A way in which a product is sold.
     *
     * @param link puts it into the basket
     */
    public record SoldOption(
            String id,
            String title,
            @Nullable BigDecimal price,
            @Nullable String link) {}

    /**
     * How a shop says a product is paid for over time; periods are ISO 8601.
     *
     * @param count in how many parts; none = it is paid again and again
     * @param grace how long the shop waits for a payment that does not come
     * @param trial how long it is free of charge first
     * @param cycles after how many payments no more are asked for; none = never
     */
    public record Plan(
            @Nullable Integer count,
            String every,
            @Nullable String grace,
            @Nullable String trial,
            @Nullable Integer cycles) {

        /** As a rulebook says it. */
        public Billing billing() {
            var waits = grace == null ? Period.ZERO : Period.parse(grace);
            return count == null
                    ? new Billing.Recurring(Period.parse(every), waits, Period.ZERO, cycles, false)
                    : new Billing.Instalments(count, Period.parse(every), waits);
        }
    }

    /**
     * How people buy.
     *
     * @param guests whether without an account
     * @param password whether who makes an account chooses a password
     */
    public record CheckoutDetails(boolean guests, boolean password) {}

    /**
     * What a classroom says of a course.
     *
     * @param sold whether the classroom sells it itself; none = it does not
     * @param link leads to it
     */
    public record CourseDetails(
            boolean content,
            boolean published,
            CourseState.Door door,
            @Nullable Boolean sold,
            @Nullable String link,
            List<Section> sections) {
        public CourseDetails {
            sections = List.copyOf(sections);
        }
    }

    public record Section(String id, String title, String tier) {}
}
