package yoru.core.moves;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import yoru.core.access.Access;
import yoru.core.letters.News;
import yoru.core.systems.Wish;

/**
 * What becomes of one person at one moment.
 *
 * @param access all that they have
 * @param moves what has moved since the systems were last told
 * @param open all that is open now, as the systems are told of it
 * @param wishes what the systems should hold of what has moved
 * @param news what has opened and is worth a letter
 * @param next when something begins, ends or happens next; nothing where it does not by itself
 */
public record Turn(
        List<Access> access, Moves moves, List<Told> open, List<Wish> wishes, List<News> news, Optional<Instant> next) {

    public Turn {
        access = List.copyOf(access);
        open = List.copyOf(open);
        wishes = List.copyOf(wishes);
        news = List.copyOf(news);
    }

    /** The same without some of the news. */
    public Turn without(Predicate<News> some) {
        return new Turn(
                access, moves, open, wishes, news.stream().filter(some.negate()).toList(), next);
    }
}
