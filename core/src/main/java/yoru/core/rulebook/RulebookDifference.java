package yoru.core.rulebook;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
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

    /** What differs besides the cells and what things are called, a sentence each. */
    public List<String> more() {
        var lines = new ArrayList<String>();
        school(lines);
        changed(lines, "level", before.levels(), after.levels(), Level::id, Level::title, level -> level);
        changed(
                lines,
                "product",
                before.products(),
                after.products(),
                Product::id,
                Product::title,
                product -> List.of(product.billing(), product.quantity(), product.opensOn(), product.options()));
        changed(
                lines,
                "course",
                before.courses(),
                after.courses(),
                Course::id,
                Course::title,
                course -> List.of(course.premium(), course.sections()));
        changed(
                lines,
                "terms",
                before.namedTerms(),
                after.namedTerms(),
                NamedTerms::id,
                NamedTerms::title,
                NamedTerms::terms);
        return lines;
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

    private static <T> void changed(
            List<String> lines,
            String sort,
            List<T> old,
            List<T> now,
            Function<T, String> id,
            Function<T, String> title,
            Function<T, Object> content) {
        Map<String, T> known = old.stream().collect(Collectors.toMap(id, Function.identity(), (one, other) -> one));
        for (T thing : now) {
            var was = known.remove(id.apply(thing));
            var name = "%s %s".formatted(sort, title.apply(thing));
            if (was == null) {
                lines.add("New: " + name);
            } else if (!Objects.equals(content.apply(was), content.apply(thing))) {
                lines.add("Changed: " + name);
            }
        }
        known.values().forEach(gone -> lines.add("Gone: %s %s".formatted(sort, title.apply(gone))));
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
