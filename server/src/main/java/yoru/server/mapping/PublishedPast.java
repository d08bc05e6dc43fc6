package yoru.server.mapping;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Rulebook;
import yoru.server.rulebooks.Reach;

/**
 * What of before a publish has follow-ups serve; nothing unless somebody says so.
 *
 * @param counts whether what the publish opens or ends by itself is something to follow up
 */
public record PublishedPast(boolean counts, List<From> followups) {

    /** Nothing. */
    static final PublishedPast NOTHING = new PublishedPast(false, List.of());

    public PublishedPast {
        followups = List.copyOf(followups);
    }

    /**
     * From when on a follow-up serves.
     *
     * @param since none = from the beginning
     * @param letters whether it also writes about what was before
     */
    public record From(String followup, @Nullable Instant since, boolean letters) {}

    Reach reach() {
        return new Reach(
                counts,
                followups.stream()
                        .map(it -> new Reach.Served(it.followup, it.letters))
                        .toList());
    }

    /** What is new, switched on, or waits for something else than before begins with the publish. */
    Rulebook begin(Rulebook before, Rulebook after, Instant now) {
        Map<String, Followup> known =
                before.followups().stream().collect(Collectors.toMap(Followup::id, Function.identity()));
        return after.withFollowups(after.followups().stream()
                .map(followup -> begin(Optional.ofNullable(known.get(followup.id())), followup, now))
                .toList());
    }

    private Followup begin(Optional<Followup> before, Followup after, Instant now) {
        var chosen =
                followups.stream().filter(it -> it.followup.equals(after.id())).findFirst();
        if (chosen.isPresent()) {
            return after.beginningAt(chosen.get().since);
        }
        return before.filter(it -> servesAlike(it, after))
                .map(it -> after.beginningAt(it.sinceOrNone()))
                .orElseGet(() -> after.beginningAt(now));
    }

    private static boolean servesAlike(Followup before, Followup after) {
        return before.on() == after.on()
                && before.when().equals(after.when())
                && before.eachLine() == after.eachLine()
                && before.once() == after.once()
                && before.only().equals(after.only())
                && before.rows().equals(after.rows());
    }
}
