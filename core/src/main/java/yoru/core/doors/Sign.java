package yoru.core.doors;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What somebody meets at a closed door.
 *
 * @param text CommonMark, with what it left open filled in
 * @param redirectOrNone where they are sent instead of reading it
 * @param ways what they can buy to get in, the cheapest first
 * @param besides other ways in, in words
 */
public record Sign(String text, @Nullable String redirectOrNone, List<Way> ways, List<String> besides) {

    /**
     * Something to buy that opens it.
     *
     * @param price in words
     */
    public record Way(Offer offer, String price) {}

    public Sign {
        ways = List.copyOf(ways);
        besides = List.copyOf(besides);
    }

    public Optional<String> redirect() {
        return Optional.ofNullable(redirectOrNone);
    }

    /** Whether there is nothing that they could do to get in. */
    public boolean isWithoutWay() {
        return redirectOrNone == null && ways.isEmpty() && besides.isEmpty();
    }

    /** "sent to https://…"; "“You do not have it.” Ways in: First Hive €60.00". */
    public String inWords() {
        if (redirectOrNone != null) {
            return "sent to " + redirectOrNone;
        }
        var said = "“" + text + "”";
        if (!ways.isEmpty()) {
            var first = ways.getFirst();
            said += " Get it: " + first.offer().title() + ", " + first.price();
            if (ways.size() > 1) {
                said += ", and " + (ways.size() - 1) + " more";
            }
            said += ".";
        }
        return besides.isEmpty() ? said : said + " Also " + String.join(", ", besides) + ".";
    }
}
