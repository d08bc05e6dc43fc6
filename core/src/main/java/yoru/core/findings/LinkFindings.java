package yoru.core.findings;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import yoru.core.access.TermsInWords;
import yoru.core.access.Words;
import yoru.core.findings.Finding.Kind;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** What is wrong with single links, and between them. */
final class LinkFindings {

    private final Ways ways;
    private final Rulebook rulebook;
    private final Observed observed;

    LinkFindings(Ways ways, Observed observed) {
        this.ways = ways;
        this.rulebook = ways.rulebook();
        this.observed = observed;
    }

    private record Cell(Source source, String place) {}

    void addTo(List<Finding> found) {
        Map<Cell, List<Link>> cells = new LinkedHashMap<>();
        for (Link link : rulebook.links()) {
            coversNothing(link, found);
            leadsToItself(link, found);
            isOver(link, found);
            for (Destination to : link.to()) {
                tagStays(link, to, found);
                cells.computeIfAbsent(new Cell(link.from(), to.place()), cell -> new ArrayList<>())
                        .add(link);
            }
        }
        cells.forEach((cell, links) -> {
            if (links.size() > 1) {
                found.add(twoLinks(cell.place, links));
            }
        });
    }

    private void coversNothing(Link link, List<Finding> found) {
        if (link.from() instanceof Source.OfCategory it
                && rulebook.products().stream()
                        .noneMatch(product -> product.categories().contains(it.category()))) {
            found.add(covers(
                    link, it.category(), "It opens " + rulebook.titlesOf(link.to()) + ", and no product is in it."));
        }
        for (Destination to : link.to()) {
            if (to instanceof Destination.OfCategory it
                    && rulebook.courses().stream()
                            .noneMatch(course -> course.categories().contains(it.category()))) {
                found.add(covers(
                        link,
                        it.category(),
                        "It is opened by " + rulebook.title(link.from()) + ", and no course is in it."));
            }
        }
    }

    private static Finding covers(Link link, String category, String text) {
        return Finding.of(
                Kind.COVERS_NOTHING,
                "link/" + link.id(),
                "Category " + category + " covers nothing",
                text,
                "See whether the category has another name now.");
    }

    /** Tags and levels that do are no rulebook at all. */
    private void leadsToItself(Link link, List<Finding> found) {
        if (link.from() instanceof Source.OfCompleted it
                && ways.index().targets(link).contains(new Target.OfCourse(it.course()))) {
            var course = rulebook.title(new Target.OfCourse(it.course()));
            found.add(Finding.of(
                    Kind.LEADS_TO_ITSELF,
                    "course/" + it.course(),
                    "Finishing " + course + " opens " + course,
                    "Only who has it can finish it, so it opens nothing new.",
                    "Map what was finished to what comes after it."));
        }
    }

    private void isOver(Link link, List<Finding> found) {
        var now = observed.now();
        if (now != null
                && link.terms().until().filter(until -> !until.isAfter(now)).isPresent()) {
            found.add(Finding.of(
                            Kind.LINK_IS_OVER,
                            "link/" + link.id(),
                            rulebook.title(link.from()) + " opens no more",
                            "What it opens of %s ended for everybody on %s."
                                    .formatted(
                                            rulebook.titlesOf(link.to()),
                                            Words.day(Objects.requireNonNull(
                                                    link.terms().capOrNone()))),
                            "Close it, or set a later day.")
                    .mendedBy(link.to().stream()
                            .map(to -> new CellChange(link.from(), to, null))
                            .toList()));
        }
    }

    /** What a purchase gives and its refund leaves. */
    private void tagStays(Link link, Destination to, List<Finding> found) {
        if (link.from().isBought()
                && to instanceof Destination.Exactly it
                && it.target() instanceof Target.OfTag tag
                && link.terms().refund() == Terms.OnRefund.KEEP) {
            var opens = rulebook.links().stream()
                    .filter(other -> other.from().equals(new Source.OfTag(tag.tag())))
                    .flatMap(other -> other.to().stream())
                    .map(rulebook::title)
                    .collect(Collectors.joining(", "));
            var ends = link.terms()
                    .with(
                            link.terms().length(),
                            Terms.OnRefund.END,
                            link.terms().refundShare());
            found.add(Finding.of(
                            Kind.TAG_STAYS,
                            "tag/" + tag.tag(),
                            "No refund takes the tag " + rulebook.title(tag) + " away",
                            rulebook.title(link.from()) + " puts it on, and a refund leaves it"
                                    + (opens.isEmpty() ? "." : "; it opens " + opens + "."),
                            "Let a refund end it.")
                    .mendedBy(List.of(new CellChange(link.from(), to, ends))));
        }
    }

    private Finding twoLinks(String place, List<Link> links) {
        var first = links.getFirst();
        var opened = first.to().stream()
                .filter(to -> to.place().equals(place))
                .map(rulebook::title)
                .findFirst()
                .orElse(place);
        boolean adds = links.stream().allMatch(link -> link.terms().repeat() == Terms.Repeat.EXTEND);
        return Finding.of(
                Kind.TWO_LINKS,
                "link/" + first.id(),
                rulebook.title(first.from()) + " opens " + opened + " twice",
                "%d links lead there%s"
                        .formatted(
                                links.size(),
                                adds
                                        ? "; each adds up by itself, not with the other."
                                        : ": "
                                                + links.stream()
                                                        .map(link -> TermsInWords.of(link, rulebook))
                                                        .collect(Collectors.joining("; and "))
                                                + "."),
                "Keep one of them.");
    }
}
