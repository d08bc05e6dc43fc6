package yoru.core.letters;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A letter, before it is made text or HTML. */
public record Letter(String subject, List<Block> blocks) {

    public Letter {
        blocks = List.copyOf(blocks);
    }

    /** A part of it. */
    public sealed interface Block {}

    public record Paragraph(String text) implements Block {}

    /** All that a school wrote itself, as CommonMark. */
    public record Prose(String text) implements Block {}

    /** A list. */
    public record Items(List<Item> items) implements Block {
        public Items {
            items = List.copyOf(items);
        }
    }

    /** @param linkOrNone where it leads */
    public record Item(String text, @Nullable String linkOrNone) {
        public Optional<String> link() {
            return Optional.ofNullable(linkOrNone);
        }
    }

    public String text() {
        return blocks.stream().map(Letter::text).collect(Collectors.joining("\n\n", "", "\n"));
    }

    private static String text(Block block) {
        return switch (block) {
            case Paragraph it -> it.text();
            case Prose it -> it.text();
            case Items it ->
                it.items().stream()
                        .map(item -> "- " + item.text()
                                + item.link().map(link -> "\n  " + link).orElse(""))
                        .collect(Collectors.joining("\n"));
        };
    }
}
