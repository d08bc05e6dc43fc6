package yoru.formats;

import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import yoru.core.access.Access;
import yoru.core.access.Entitlement;
import yoru.core.access.Explanation;
import yoru.core.access.Window;
import yoru.core.access.Windows;
import yoru.core.ledger.Fact;
import yoru.core.rulebook.Rulebook;

/**
 * Draws windows of access as an SVG: for each person and target the entitlements that the engine computed, with the holes
 * in them, and under them what they make up together. Nothing in it is placed by hand.
 */
final class WindowPicture {

    private static final int LEFT = 190;
    private static final int WIDTH = 560;
    private static final int RIGHT = 20;
    private static final int LINE = 22;
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMM", Locale.ENGLISH);

    private final ZoneId zone;
    private final Explanation explanation;
    private final Instant asOf;
    private final long from;
    private final long to;
    private final StringBuilder body = new StringBuilder();
    private int y = 34;

    private WindowPicture(Rulebook rulebook, Instant asOf, Instant from, Instant to) {
        this.zone = rulebook.school().zone();
        this.explanation = new Explanation(rulebook, 1);
        this.asOf = asOf;
        this.from = from.getEpochSecond();
        this.to = to.getEpochSecond();
    }

    static String draw(String title, Rulebook rulebook, List<Fact> facts, List<Access> access, Instant asOf) {
        var times = Stream.of(
                        facts.stream().map(Fact::time),
                        access.stream().map(one -> one.window().start()),
                        access.stream()
                                .flatMap(one -> one.entitlements().stream())
                                .flatMap(it -> it.stretch().span().end().stream()),
                        Stream.of(asOf))
                .flatMap(all -> all)
                .sorted()
                .toList();
        var first = times.getFirst();
        var margin = Math.max(86_400, (times.getLast().getEpochSecond() - first.getEpochSecond()) / 12);
        var picture = new WindowPicture(
                rulebook, asOf, first.minusSeconds(margin / 2), times.getLast().plusSeconds(margin));
        picture.axis();
        Map<String, List<Access>> rows = new LinkedHashMap<>();
        access.forEach(
                one -> rows.computeIfAbsent(one.person() + " " + one.target().path(), key -> new ArrayList<>())
                        .add(one));
        rows.values().forEach(picture::row);
        return picture.svg(title);
    }

    private void row(List<Access> windows) {
        var person = windows.getFirst().person();
        text(
                8,
                y + 14,
                "label",
                name(person) + ": " + windows.getFirst().target().path());
        y += LINE;
        Set<Entitlement> entitlements = new LinkedHashSet<>();
        windows.forEach(one -> entitlements.addAll(one.entitlements()));
        for (Entitlement one : entitlements) {
            text(20, y + 14, "soft", explanation.label(one));
            bars(one.stretch().open(), "given", 10);
            bars(one.stretch().suspended(), "suspended", 10);
            bars(one.stretch().takenOut(), "covered", 10);
            bars(one.stretch().grace(), "grace", 10);
            y += LINE;
        }
        text(20, y + 14, "soft", "together: " + windows.getLast().state().name().toLowerCase(Locale.ROOT));
        for (Access one : windows) {
            bar(one.window(), "open", 14);
        }
        y += LINE + 8;
    }

    private void bars(Windows windows, String kind, int height) {
        windows.asList().forEach(window -> bar(window, kind, height));
    }

    private void bar(Window window, String kind, int height) {
        double start = x(window.start());
        double end = window.end().map(this::x).orElse((double) LEFT + WIDTH);
        var said =
                shown(window.start()) + " to " + window.end().map(this::shown).orElse("no end");
        body.append("<rect class='%s' x='%.1f' y='%d' width='%.1f' height='%d' rx='2'><title>%s</title></rect>%n"
                .formatted(kind, start, y + (18 - height) / 2 + 1, Math.max(1.5, end - start), height, said));
        if (window.end().isEmpty()) {
            text(LEFT + WIDTH + 3, y + 14, "soft", "…");
        }
    }

    private void axis() {
        var month = YearMonth.from(Instant.ofEpochSecond(from).atZone(zone));
        var last = YearMonth.from(Instant.ofEpochSecond(to).atZone(zone));
        int months = (int) (12L * (last.getYear() - month.getYear()) + last.getMonthValue() - month.getMonthValue());
        int step = Math.max(1, months / 12);
        double free = 0;
        for (int n = 1; n <= months; n++) {
            var at = month.plusMonths(n);
            double x = x(at.atDay(1).atStartOfDay(zone).toInstant());
            boolean year = at.getMonthValue() == 1;
            if ((year || n % step == 0) && x >= free && x < LEFT + WIDTH - 8) {
                body.append("<line class='grid' x1='%.1f' x2='%.1f' y1='24' y2='HEIGHT'/>%n".formatted(x, x));
                text(x + 2, 20, "soft", year ? "" + at.getYear() : MONTH.format(at));
                free = x + 36;
            }
        }
    }

    private String svg(String title) {
        int height = y + 14;
        double now = x(asOf);
        var asOfLine = "<line class='now' x1='%.1f' x2='%.1f' y1='24' y2='%d'/>%n".formatted(now, now, height - 16);
        var caption = "<text class='now-text' x='%.1f' y='%d' text-anchor='middle'>as of %s</text>%n"
                .formatted(now, height - 4, shown(asOf));
        return """
                <svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 %d %d' width='%d' height='%d' role='img'>
                <title>%s</title>
                <style>
                svg { background: #fffefa } text { font: 11px sans-serif; fill: #1b1b32 } .label { font-weight: bold }
                .soft { fill: #5d5b70 } .grid { stroke: #e4e1da } .now { stroke: #a3324a; stroke-dasharray: 3 3 }
                .now-text { fill: #a3324a } .given { fill: #eda63a } .open { fill: #23704f }
                .suspended { fill: none; stroke: #a3324a; stroke-dasharray: 4 2 }
                .covered { fill: none; stroke: #5d5b70; stroke-dasharray: 1 2 } .grace { fill: #8c5a00; fill-opacity: .5 }
                </style>
                %s</svg>
                """.formatted(
                        LEFT + WIDTH + RIGHT,
                        height,
                        LEFT + WIDTH + RIGHT,
                        height,
                        title,
                        body.toString().replace("HEIGHT", "" + (height - 16)) + asOfLine + caption);
    }

    private void text(double x, double at, String kind, String words) {
        body.append("<text class='%s' x='%.1f' y='%.0f'>%s</text>%n"
                .formatted(kind, x, at, words.replace("&", "&amp;").replace("<", "&lt;")));
    }

    private double x(Instant instant) {
        return LEFT + WIDTH * (double) (instant.getEpochSecond() - from) / (to - from);
    }

    private String shown(Instant instant) {
        return DAY.format(LocalDate.ofInstant(instant, zone));
    }

    private static String name(String person) {
        return person.contains("@") ? person.substring(0, person.indexOf('@')) : person;
    }
}
