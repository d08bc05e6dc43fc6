package yoru.core.rulebook;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What people meet at one place: before it opens, after buying, after signing in. What it leaves out is as the next wider
 * place has it: a section's course, then the school, then what Yoru ships with.
 *
 * @param place {@link #SCHOOL}, or the path of a course, section, level, area or product
 * @param visitor what somebody meets who is not signed in
 * @param without what somebody meets who is signed in and does not have it
 * @param bought what somebody meets who has just bought it
 * @param signedIn where somebody lands who has signed in
 * @param parts who is let into the parts of the lowest tier
 */
public record Door(
        String place,
        @Nullable Answer visitor,
        @Nullable Answer without,
        @Nullable Answer bought,
        @Nullable Landing signedIn,
        @Nullable OpenParts parts) {

    public static final String SCHOOL = "school";

    private static final String PRODUCT = "product/";

    private static final Pattern HOST = Pattern.compile("https?://([^\\s/?#@]+)(?=[/?#]|$)");

    /** What a door does. */
    public sealed interface Answer {

        /** Says something, in CommonMark, and shows the ways in or on. */
        record Says(String text) implements Answer {}

        /** Sends on to an address. */
        record SendsTo(String address) implements Answer {}

        /** At a closed door: straight to where it is sold. After buying: to the page that lists everything bought. */
        record SendsOn() implements Answer {}
    }

    /**
     * Where somebody lands after signing in.
     *
     * @param wantedFirst whether that is what they wanted, where they wanted something
     * @param pageOrNone where else; none = the course's page, or what they have
     */
    public record Landing(boolean wantedFirst, @Nullable String pageOrNone) {

        public static final Landing AS_SHIPPED = new Landing(true, null);

        public Optional<String> page() {
            return Optional.ofNullable(pageOrNone);
        }
    }

    /** Who is let into the parts of the lowest tier. */
    public enum OpenParts {
        EVERYBODY,
        SIGNED_IN,
        AS_OTHERS
    }

    /** One of the things that a door can say, as documents name it. */
    public enum Side {
        VISITOR("visitor"),
        WITHOUT("without"),
        BOUGHT("bought");

        private final String key;

        Side(String key) {
            this.key = key;
        }

        public String key() {
            return key;
        }

        /** What a text for it may leave open. */
        public List<String> placeholders() {
            return this == BOUGHT
                    ? List.of("product", "opened", "school")
                    : List.of("title", "product", "price", "school");
        }

        public Optional<Answer> of(Door door) {
            return Optional.ofNullable(
                    switch (this) {
                        case VISITOR -> door.visitor;
                        case WITHOUT -> door.without;
                        case BOUGHT -> door.bought;
                    });
        }
    }

    /** Every address that it sends people to. */
    public Stream<String> addresses() {
        return Stream.concat(
                Stream.of(Side.values())
                        .flatMap(side -> side.of(this).stream())
                        .flatMap(answer -> answer instanceof Answer.SendsTo it ? Stream.of(it.address()) : Stream.of()),
                Stream.ofNullable(signedIn).flatMap(it -> it.page().stream()));
    }

    /** Where an address is, as addresses are compared: host and port, in small letters; empty = it is no address of the web. */
    public static String hostOf(String address) {
        var found = HOST.matcher(address);
        return found.lookingAt() ? found.group(1).toLowerCase(Locale.ROOT) : "";
    }

    /** What is met closed at a place; nothing at the school's and a product's. */
    public static Optional<Target> targetOf(String place) {
        return place.equals(SCHOOL) || productOf(place).isPresent()
                ? Optional.empty()
                : Optional.of(Target.read(place));
    }

    /** What is bought at a place; nothing where nothing is. */
    public static Optional<String> productOf(String place) {
        return place.startsWith(PRODUCT) ? Optional.of(place.substring(PRODUCT.length())) : Optional.empty();
    }

    /** The sides that a place can have: what is opened is met closed, what is sold is bought. */
    public static List<Side> sidesOf(String place) {
        if (place.equals(SCHOOL)) {
            return List.of(Side.values());
        }
        return productOf(place).isPresent() ? List.of(Side.BOUGHT) : List.of(Side.VISITOR, Side.WITHOUT);
    }
}
