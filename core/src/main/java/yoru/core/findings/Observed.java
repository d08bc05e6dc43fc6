package yoru.core.findings;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Rulebook;
import yoru.core.systems.Landscape;

/**
 * What the rulebook does not say: what was sold, what the connected systems list, what the time is.
 *
 * @param offers what the shops list; none = no shop was asked
 * @param courses what the classrooms list; none = no classroom was asked
 * @param vanished ids of courses that a classroom listed once and none lists now
 * @param strangers who is in a course without a reason that anybody knows
 * @param surplus orders of which more is paid for than opens
 * @param checkouts how the shops let people buy
 * @param published the rulebook as it was published, before the catalogues went on; none = it is looked over as it is
 * @param now in the school's zone; none = nothing is over
 * @param paths where people are led; none = nothing is known of it
 */
public record Observed(
        List<Sales> sales,
        @Nullable List<Offer> offers,
        @Nullable List<CourseState> courses,
        Set<String> vanished,
        List<Strangers> strangers,
        List<Surplus> surplus,
        List<Checkout> checkouts,
        @Nullable Rulebook published,
        @Nullable LocalDateTime now,
        @Nullable Paths paths) {

    /** A rulebook is all there is. */
    public static final Observed NOTHING =
            new Observed(List.of(), null, null, Set.of(), List.of(), List.of(), List.of(), null, null, null);

    /**
     * Where people are led, and what is there.
     *
     * @param noLongerSold addresses that put something into a basket that is not sold any more
     * @param hosts of the connected systems and of Yoru itself, with the port where one is named
     * @param answers of the addresses that doors lead to, as HTTP statuses; 0 = nothing answered
     */
    public record Paths(
            List<yoru.core.doors.Offer> forSale,
            Set<String> noLongerSold,
            Landscape landscape,
            Set<String> hosts,
            Map<String, Integer> answers,
            Instant asOf) {}

    /**
     * A product as its shop lists it.
     *
     * @param thing whether it is something to post
     * @param about how the shop describes it
     */
    public record Offer(String product, BigDecimal price, String currency, boolean thing, String about) {

        Currency unit() {
            return Currency.getInstance(currency);
        }
    }

    /**
     * People whom a classroom has in a course, and nothing that happened put them there.
     *
     * @param course its id
     * @param names of some of them
     * @param people how many there are
     */
    public record Strangers(String course, List<String> names, int people) {

        public Strangers {
            names = List.copyOf(names);
        }

        /** "Ann Moss, Bo Fenn and 3 more". */
        String words() {
            var listed = String.join(", ", names);
            return people > names.size() ? listed + " and " + (people - names.size()) + " more" : listed;
        }
    }

    /**
     * An order with several of what opens once.
     *
     * @param buyer what they are called
     * @param products ids of what is paid for more than once
     */
    public record Surplus(String order, String buyer, List<String> products) {

        public Surplus {
            products = List.copyOf(products);
        }
    }

    /**
     * How a shop lets people buy.
     *
     * @param guests whether without an account
     * @param password whether who makes an account chooses a password
     */
    public record Checkout(String shop, String title, boolean guests, boolean password) {}
}
