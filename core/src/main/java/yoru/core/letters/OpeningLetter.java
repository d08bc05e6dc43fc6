package yoru.core.letters;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import yoru.core.access.HowLong;
import yoru.core.access.Words;
import yoru.core.letters.Letter.Block;
import yoru.core.letters.Letter.Item;
import yoru.core.letters.Letter.Items;
import yoru.core.letters.Letter.Paragraph;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Target;
import yoru.core.systems.Landscape;

/** The one letter that says all that has opened, where, and for how long. It never says a price, and carries no password. */
public final class OpeningLetter {

    /** Stands for an address that is made with the letter. */
    public static final String MADE_WITH_THE_LETTER = "(an address of your own)";

    /** What there is of a course of which no part is open. */
    private static final String ENTRANCE = "the entrance";

    private final String school;
    private final Rulebook rulebook;
    private final Landscape landscape;
    private final @Nullable LetterWording own;
    private final @Nullable String ownPage;

    /**
     * @param own the school's own words; none = those that it ships with
     * @param ownPage where the reader sees all that they have; none = they have no such page
     */
    public OpeningLetter(
            String school,
            Rulebook rulebook,
            Landscape landscape,
            @Nullable LetterWording own,
            @Nullable String ownPage) {
        this.ownPage = ownPage;
        this.school = school;
        this.rulebook = rulebook;
        this.landscape = landscape;
        this.own = own;
    }

    /**
     * Places of an order that others can take.
     *
     * @param address where the buyer sends them from; none = it is made when the letter is
     */
    public record Seats(int free, @Nullable String address) {}

    /**
     * A line of the letter.
     *
     * @param parts of a course, those it is about; empty = the whole
     */
    private record Line(Target target, String title, List<String> parts, HowLong howLong) {}

    /** Nothing where nobody carries letters, or there is nothing to write about. */
    public Optional<Letter> ifAny(
            String key, Optional<String> name, Collection<News> opened, Supplier<Optional<Seats>> seats) {
        return opened.isEmpty() || !landscape.carriesLetters()
                ? Optional.empty()
                : Optional.of(of(key, name, opened, seats.get()));
    }

    /**
     * The letter.
     *
     * @param name what the person is called; none = nobody told
     */
    public Letter of(String key, Optional<String> name, Collection<News> opened, Optional<Seats> seats) {
        var lines = lines(opened);
        if (own != null) {
            var filled = own.fill(Map.of(
                    "person.name",
                    name.orElse(""),
                    "person.address",
                    key,
                    "titles",
                    titles(lines),
                    "opened",
                    lines.stream().map(line -> asMarkdown(item(line))).collect(Collectors.joining("\n")),
                    "places",
                    seats.map(OpeningLetter::inWords).orElse(""),
                    "page",
                    ownPage == null ? "" : ownPage,
                    "school",
                    school));
            return new Letter(filled.subject(), List.of(new Letter.Prose(filled.text())));
        }
        boolean free = opened.stream().allMatch(News::free);
        var blocks = new ArrayList<Block>();
        blocks.add(new Paragraph("Hello" + name.map(it -> " " + it).orElse("") + ","));
        blocks.add(new Paragraph(
                free ? "we have opened this for you; nothing was charged:" : "this is open for you now:"));
        blocks.add(items(opened));
        seats.ifPresent(it -> blocks.add(new Paragraph(inWords(it))));
        blocks.add(new Paragraph("Sign in as " + key + "."));
        if (ownPage != null) {
            blocks.add(leadingTo(ownPage));
        }
        blocks.add(new Paragraph(school));
        return new Letter(subject(lines, free), blocks);
    }

    private static String inWords(Seats seats) {
        return (seats.free() == 1
                        ? "One more place is yours to give. Send it to whom it is for, here: "
                        : seats.free() + " more places are yours to give. Send each to whom it is for, here: ")
                + (seats.address() == null ? MADE_WITH_THE_LETTER : seats.address());
    }

    private static String asMarkdown(Item item) {
        return "- " + item.text() + item.link().map(link -> " <" + link + ">").orElse("");
    }

    private static String titles(List<Line> lines) {
        return Titles.few(lines.stream().map(OpeningLetter::called).distinct().toList());
    }

    private static String subject(List<Line> lines, boolean free) {
        if (free) {
            return "A free place for you: " + titles(lines);
        }
        boolean one = lines.stream().map(OpeningLetter::called).distinct().count() == 1;
        return titles(lines) + (one ? " is" : " are") + " open for you";
    }

    private static String called(Line line) {
        return line.parts.size() == 1 ? line.title + ": " + line.parts.getFirst() : line.title;
    }

    private Item item(Line line) {
        var words = new Words(rulebook.school().zone());
        var text = new StringBuilder(line.title);
        if (!line.parts.isEmpty()) {
            text.append(", of it: ").append(String.join(", ", line.parts));
        }
        if (line.howLong.endOrNone() != null) {
            text.append(", ").append(line.howLong.inWords(words));
        }
        var where = landscape.where(line.target);
        where.ifPresent(it -> text.append(". In ").append(it.system()).append(":"));
        return new Item(text.toString(), where.map(Landscape.Where::address).orElse(null));
    }

    /** The line with the way to the reader's own page. */
    public static Paragraph leadingTo(String ownPage) {
        return new Paragraph("All that you have, and what you can do with it: " + ownPage);
    }

    /** What has opened, a line for each with where it is and for how long. */
    public Items items(Collection<News> opened) {
        return new Items(lines(opened).stream().map(this::item).toList());
    }

    /** Courses first; parts of a course that last otherwise than the rest of it have a line of their own. */
    private List<Line> lines(Collection<News> opened) {
        var lines = new ArrayList<Line>();
        opened.stream()
                .map(OpeningLetter::courseOf)
                .flatMap(Optional::stream)
                .distinct()
                .forEach(course -> {
                    var own = opened.stream()
                            .filter(it -> courseOf(it).filter(course::equals).isPresent())
                            .toList();
                    lines.addAll(lines(course, own));
                });
        opened.stream()
                .filter(it -> courseOf(it).isEmpty())
                .forEach(it -> lines.add(new Line(it.target(), rulebook.title(it.target()), List.of(), it.howLong())));
        return lines;
    }

    private List<Line> lines(String course, List<News> opened) {
        Map<HowLong, List<News>> byHowLong =
                opened.stream().collect(Collectors.groupingBy(News::howLong, LinkedHashMap::new, Collectors.toList()));
        var target = new Target.OfCourse(course);
        return byHowLong.entrySet().stream()
                .map(it -> new Line(target, rulebook.title(target), parts(course, it.getValue()), it.getKey()))
                .toList();
    }

    private List<String> parts(String id, List<News> opened) {
        var sections = rulebook.course(id).map(Course::sections).orElse(List.of());
        var open = sections.stream()
                .filter(section ->
                        opened.stream().anyMatch(it -> it.target().equals(new Target.OfSection(id, section.id()))))
                .map(Section::title)
                .toList();
        if (open.size() == sections.size()) {
            return List.of();
        }
        return open.isEmpty() ? List.of(ENTRANCE) : open;
    }

    private static Optional<String> courseOf(News news) {
        return switch (news.target()) {
            case Target.OfCourse it -> Optional.of(it.course());
            case Target.OfSection it -> Optional.of(it.course());
            case Target.OfTag _,
                    Target.OfLevel _,
                    Target.OfGroup _,
                    Target.OfArea _,
                    Target.OfDownload _,
                    Target.OfList _ -> Optional.empty();
        };
    }
}
