package yoru.core.rulebook;

import java.time.Period;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What leads from one rulebook to another. */
public record RulebookDifference(Rulebook before, Rulebook after) {

    private record Cell(Source source, String place) {}

    /** What a cell says; of several links that share one, the first. */
    private record Said(
            Destination destination,
            Terms terms,
            Applies applies,
            @Nullable String termsName) {}

    /** What is different is said for each link that it counts for. */
    private static final String IN_ITS_LINKS = "";

    /** The cells that have to be changed. */
    public List<CellChange> cells() {
        var old = cells(before);
        var now = cells(after);
        var changes = new ArrayList<CellChange>();
        now.forEach((cell, said) -> {
            if (!said.equals(old.get(cell))) {
                changes.add(new CellChange(cell.source, said.destination, said.terms, said.applies, said.termsName));
            }
        });
        old.forEach((cell, said) -> {
            if (!now.containsKey(cell)) {
                changes.add(new CellChange(cell.source, said.destination, null));
            }
        });
        return changes;
    }

    /**
     * What differs besides the cells and what things are called, a sentence each.
     *
     * @param periods says a period in words
     */
    public List<String> more(Function<Period, String> periods) {
        var lines = new ArrayList<String>();
        school(lines);
        for (Sort sort : Sort.values()) {
            if (!sort.isOnlyNamed()) {
                changed(lines, sort, thing -> content(thing, periods));
            }
        }
        followups(lines);
        doors(lines);
        return lines;
    }

    private void doors(List<String> lines) {
        var known = new LinkedHashMap<String, Door>();
        before.doors().forEach(one -> known.put(one.place(), one));
        for (Door door : after.doors()) {
            var was = known.remove(door.place());
            if (!door.equals(was)) {
                lines.add((was == null ? "New: " : "Changed: ") + "door of " + after.titleOfPlace(door.place()));
            }
        }
        known.keySet().forEach(place -> lines.add("As shipped again: door of " + before.titleOfPlace(place)));
    }

    private void followups(List<String> lines) {
        var known = new LinkedHashMap<String, Followup>();
        before.followups().forEach(one -> known.put(one.id(), one));
        for (Followup followup : after.followups()) {
            var was = known.remove(followup.id());
            if (was == null) {
                lines.add("New: follow-up " + followup.title());
            } else if (!was.equals(followup)) {
                lines.add("Changed: follow-up %s%s"
                        .formatted(
                                followup.title(),
                                was.on() == followup.on() ? "" : followup.on() ? ": switched on" : ": switched off"));
            }
        }
        known.values().forEach(gone -> lines.add("Gone: follow-up " + gone.title()));
    }

    /** What there is to say of a thing, by what it is about. */
    private static Map<String, String> content(Thing thing, Function<Period, String> periods) {
        return switch (thing) {
            case Course it -> of(it);
            case Product it -> of(it, periods);
            case Level it -> of(it);
            case NamedTerms it -> Map.of(IN_ITS_LINKS, it.terms().toString());
            case Named _ -> Map.of();
        };
    }

    private static Map<String, String> of(Level level) {
        return Map.of(
                "its ladder",
                level.ladder().map(ladder -> ladder + ", rank " + level.rank()).orElse("none"),
                "courses to choose",
                level.allowance()
                        .map(allowance -> allowance.courses()
                                + (allowance.premium().isPresent()
                                        ? ", " + allowance.premium().getAsInt() + " of them premium"
                                        : "")
                                + (allowance.categories().isEmpty()
                                        ? ""
                                        : ", of " + String.join(", ", allowance.categories()))
                                + (allowance.except().isEmpty()
                                        ? ""
                                        : ", but " + String.join(", ", allowance.except())))
                        .orElse("none"));
    }

    private static Map<String, String> of(Product product, Function<Period, String> periods) {
        return Map.of(
                "paid for",
                switch (product.billing()) {
                    case Billing.Once _ -> "once";
                    case Billing.Free _ -> "not at all";
                    case Billing.Instalments it ->
                        "in %d parts, every %s%s"
                                .formatted(it.count(), periods.apply(it.every()), grace(it.grace(), periods));
                    case Billing.Recurring it ->
                        "every %s%s%s"
                                .formatted(
                                        periods.apply(it.every()),
                                        it.cycles().isPresent()
                                                ? ", " + it.cycles().getAsInt() + " times"
                                                : "",
                                        grace(it.grace(), periods));
                },
                "more than one",
                switch (product.quantity()) {
                    case ONCE -> "counts as one";
                    case LONGER -> "lasts longer";
                    case SEATS -> "makes seats";
                },
                "opens when",
                product.opensOn().map(on -> on.name().toLowerCase(Locale.ROOT)).orElse("as the school says"),
                "options",
                product.options().isEmpty()
                        ? "none"
                        : product.options().stream().map(Option::title).collect(Collectors.joining(", ")));
    }

    private static String grace(Period grace, Function<Period, String> periods) {
        return grace.isZero() ? "" : ", with " + periods.apply(grace) + " of grace";
    }

    private static Map<String, String> of(Course course) {
        return Map.of(
                "premium",
                course.premium() ? "yes" : "no",
                "sections",
                course.sections().isEmpty()
                        ? "none"
                        : course.sections().stream()
                                .map(section -> section.title()
                                        + section.tier()
                                                .map(tier -> " (" + tier + ")")
                                                .orElse(""))
                                .collect(Collectors.joining(", ")));
    }

    private void school(List<String> lines) {
        var old = before.school();
        var now = after.school();
        said(
                lines,
                "things open when an order is",
                old.opensOn().name().toLowerCase(Locale.ROOT),
                now.opensOn().name().toLowerCase(Locale.ROOT));
        said(lines, "the zone is", old.zone().getId(), now.zone().getId());
        said(
                lines,
                "the currency is",
                old.currency().getCurrencyCode(),
                now.currency().getCurrencyCode());
        said(lines, "the tiers are", String.join(", ", old.tiers()), String.join(", ", now.tiers()));
        if (!old.ladders().equals(now.ladders())) {
            lines.add("The ladders of levels are changed");
        }
        if (!old.tagNames().equals(now.tagNames())) {
            lines.add("The names of tags are changed");
        }
    }

    private static void said(List<String> lines, String what, String old, String now) {
        if (!old.equals(now)) {
            lines.add("In the school %s %s (was %s)"
                    .formatted(what, now.isEmpty() ? "none" : now, old.isEmpty() ? "none" : old));
        }
    }

    private void changed(List<String> lines, Sort sort, Function<Thing, Map<String, String>> content) {
        Map<String, Thing> known = before.all(sort).stream()
                .collect(Collectors.toMap(Thing::id, Function.identity(), (one, other) -> one));
        for (Thing thing : after.all(sort)) {
            var was = known.remove(thing.id());
            var name = "%s %s".formatted(sort.one(), thing.title());
            if (was == null) {
                lines.add("New: " + name);
            } else {
                var old = content.apply(was);
                new TreeMap<>(content.apply(thing)).forEach((about, said) -> {
                    if (!said.equals(old.get(about))) {
                        lines.add(
                                about.equals(IN_ITS_LINKS)
                                        ? "Changed: " + name
                                        : "Changed: %s: %s: %s (was %s)".formatted(name, about, said, old.get(about)));
                    }
                });
            }
        }
        known.values().forEach(gone -> lines.add("Gone: %s %s".formatted(sort.one(), gone.title())));
    }

    private static Map<Cell, Said> cells(Rulebook rulebook) {
        Map<Cell, Said> cells = new LinkedHashMap<>();
        for (Link link : rulebook.links()) {
            for (Destination destination : link.to()) {
                cells.putIfAbsent(
                        new Cell(link.from(), destination.place()),
                        new Said(destination, link.terms(), link.applies(), link.termsNameOrNone()));
            }
        }
        return cells;
    }
}
