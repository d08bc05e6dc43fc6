package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.node.JsonNodeFactory;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.Applies.Afterwards;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.formats.Fault;
import yoru.formats.RulebookDocument;
import yoru.formats.UnreadableException;

/**
 * Under what terms a cell of the grid opens: those of its link, and of a course or a category also which part of it. What
 * is left out has the default of a rulebook.
 *
 * @param length {@code held} or an ISO 8601 period
 * @param refund {@code end} or {@code keep}
 * @param refundShare what share must be given back before a refund ends it, none = all
 * @param until when it ends at the latest, in the school's zone
 * @param repeat {@code extend} or {@code overlap}
 * @param tier up to which tier of a course, none = all of it
 * @param except which courses of a category not
 * @param named the id of terms that the school keeps under a name; they count then, whatever is said here
 */
public record CellTerms(
        @NotBlank @Size(max = 40) String length,
        @NotBlank @Size(max = 10) String refund,
        @Nullable BigDecimal refundShare,
        @Nullable @Valid Begins starts,
        @Nullable LocalDateTime until,
        @Nullable @Size(max = 10) String repeat,
        @Nullable @Size(max = 100) String tier,
        @Nullable @Size(max = 1_000) List<@Size(max = 200) String> except,
        @Nullable @Valid Serves applies,
        @Nullable @Size(max = 200) String named) {

    /**
     * When it begins, if not at once.
     *
     * @param after an ISO 8601 period after the source
     * @param at a date in the school's zone
     */
    record Begins(
            @Nullable @Size(max = 40) String after,
            @Nullable LocalDateTime at) {}

    /**
     * Which purchases it serves: those from one moment to another.
     *
     * @param afterwards {@code take-back} or {@code run-out}: what becomes of access when the time is over
     */
    record Serves(
            @Nullable Instant from,
            @Nullable Instant until,
            @Nullable @Size(max = 10) String afterwards) {}

    /** Terms alone, of no cell. */
    static CellTerms of(Terms terms) {
        return of(terms, null, null, null, null);
    }

    static CellTerms of(Link link, Destination destination) {
        return of(
                link.terms(),
                switch (destination) {
                    case Destination.OfCourse it -> it.upToTier();
                    case Destination.OfCategory it -> it.upToTier();
                    case Destination.Exactly _ -> null;
                },
                destination instanceof Destination.OfCategory it && !it.except().isEmpty() ? it.except() : null,
                serves(link.applies()),
                link.termsNameOrNone());
    }

    private static CellTerms of(
            Terms terms,
            @Nullable String tier,
            @Nullable List<String> except,
            @Nullable Serves applies,
            @Nullable String named) {
        var length = switch (terms.length()) {
            case Length.Held _ -> "held";
            case Length.Lasting it -> it.period().toString();
        };
        var starts = switch (terms.starts()) {
            case Starts.AtOnce _ -> null;
            case Starts.After it -> new Begins(it.period().toString(), null);
            case Starts.At it -> new Begins(null, it.date());
        };
        return new CellTerms(
                length,
                terms.refund().name().toLowerCase(Locale.ROOT),
                terms.refundShare().compareTo(BigDecimal.ONE) == 0 ? null : terms.refundShare(),
                starts,
                terms.capOrNone(),
                terms.repeat() == Terms.Repeat.EXTEND ? "extend" : null,
                tier,
                except,
                applies,
                named);
    }

    private static @Nullable Serves serves(Applies applies) {
        if (applies.equals(Applies.ALWAYS)) {
            return null;
        }
        var afterwards = applies.afterwards() == Afterwards.TAKE_BACK ? "take-back" : "run-out";
        return new Serves(applies.fromOrNone(), applies.untilOrNone(), afterwards);
    }

    /** @throws UnreadableException where the terms are none */
    CellChange change(Source from, String place) {
        var node = JsonNodeFactory.instance.objectNode().put("length", length).put("refund", refund);
        if (refundShare != null) {
            node.put("refundShare", refundShare);
        }
        if (repeat != null) {
            node.put("repeat", repeat);
        }
        if (until != null) {
            node.put("until", until.toString());
        }
        if (starts != null) {
            var begins = node.putObject("starts");
            Optional.ofNullable(starts.after).ifPresent(after -> begins.put("after", after));
            Optional.ofNullable(starts.at).ifPresent(at -> begins.put("at", at.toString()));
        }
        return new CellChange(from, destination(place), RulebookDocument.terms(node), applies(applies), named);
    }

    private static Applies applies(@Nullable Serves it) {
        return it == null
                ? Applies.ALWAYS
                : new Applies(
                        it.from,
                        it.until,
                        "take-back".equals(it.afterwards) ? Afterwards.TAKE_BACK : Afterwards.RUN_OUT);
    }

    private Destination destination(String place) {
        if (place.startsWith("category/")) {
            return new Destination.OfCategory(
                    place.substring("category/".length()), except == null ? List.of() : except, tier);
        }
        return target(place) instanceof Target.OfCourse it
                ? new Destination.OfCourse(it.course(), tier)
                : new Destination.Exactly(target(place));
    }

    /** Where a cell without terms stands. */
    static Destination at(String place) {
        return place.startsWith("category/")
                ? new Destination.OfCategory(place.substring("category/".length()), List.of(), null)
                : Destination.to(target(place));
    }

    private static Target target(String place) {
        try {
            return Target.read(place);
        } catch (IllegalArgumentException e) {
            throw new UnreadableException(List.of(new Fault("target", "is no target: " + place)));
        }
    }
}
