package yoru.core.access;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Holding.Bought;
import yoru.core.access.Holding.Finished;
import yoru.core.access.Holding.Held;
import yoru.core.access.Holding.Subscribed;
import yoru.core.ledger.ByCodePoint;
import yoru.core.rulebook.Applies.Afterwards;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.Terms;
import yoru.core.rulebook.Terms.Repeat;
import yoru.core.time.SchoolCalendar;

/** What links make of holdings. */
final class Links {

    /** By start; at the same time by the text of what was bought, then line, then seat. */
    private static final Comparator<Holding> CHAIN_ORDER = Comparator.comparing(Holding::start)
            .thenComparing(Links::bought, ByCodePoint.ORDER)
            .thenComparing(Links::line, ByCodePoint.ORDER)
            .thenComparingInt(Links::seat);

    private final RulebookIndex index;
    private final SchoolCalendar calendar;

    Links(RulebookIndex index, SchoolCalendar calendar) {
        this.index = index;
        this.calendar = calendar;
    }

    /** What the link gives for what one person holds of its source. */
    void through(Link link, List<? extends Holding> holdings, List<Entitlement> given) {
        var served = holdings.stream()
                .filter(holding -> link.applies().covers(holding.start()))
                .toList();
        if (link.terms().repeat() == Repeat.EXTEND
                && link.terms().length() instanceof Length.Lasting
                && served.size() > 1) {
            chained(link, served, given);
        } else {
            served.forEach(holding -> give(link, holding, null, given));
        }
    }

    private void chained(Link link, List<? extends Holding> holdings, List<Entitlement> given) {
        var chain = new Chain();
        holdings.stream().sorted(CHAIN_ORDER).forEach(holding -> {
            Instant notBefore = chain.isInterruptedAt(holding.start()) ? null : chain.lastEnd;
            var stretch = give(link, holding, notBefore, given);
            if (stretch != null) {
                chain.add(stretch);
            }
        });
    }

    /**
     * Gives what one holding is worth.
     *
     * @param notBefore where the chain before it ends
     * @return when; nothing where the window is empty
     */
    private @Nullable Stretch give(Link link, Holding holding, @Nullable Instant notBefore, List<Entitlement> given) {
        var terms = link.terms();
        var start = start(terms.starts(), holding.start());
        if (notBefore != null) {
            start = Window.later(start, notBefore);
        }
        var ending = Ending.earlier(holding.end(terms), endOfLength(terms, start, holding.times()));
        ending = Ending.earlier(ending, cap(terms));
        ending = Ending.earlier(ending, takenBack(link));
        var span = new Window(start, ending == null ? null : ending.at());
        if (span.isEmpty()) {
            return null;
        }
        var stretch = Stretch.of(span, holding.suspended(), holding.takenOut(), holding.grace());
        var reason = new Reason.Linked(link, holding);
        for (var target : index.targets(link)) {
            given.add(new Entitlement(holding.person(), target, stretch, reason, ending));
        }
        return stretch;
    }

    private Instant start(Starts starts, Instant held) {
        return switch (starts) {
            case Starts.AtOnce _ -> held;
            case Starts.After it -> calendar.plus(held, it.period());
            case Starts.At it -> Window.later(held, calendar.at(it.date()));
        };
    }

    private @Nullable Ending endOfLength(Terms terms, Instant start, int times) {
        return switch (terms.length()) {
            case Length.Held _ -> null;
            case Length.Lasting it ->
                new Ending(calendar.plus(start, it.period(), times), new Ending.Cause.Elapsed(it.period()));
        };
    }

    private @Nullable Ending cap(Terms terms) {
        return terms.until()
                .map(date -> new Ending(calendar.at(date), new Ending.Cause.Capped()))
                .orElse(null);
    }

    private static @Nullable Ending takenBack(Link link) {
        return link.applies().afterwards() == Afterwards.RUN_OUT
                ? null
                : link.applies()
                        .until()
                        .map(until -> new Ending(until, new Ending.Cause.TakenBack()))
                        .orElse(null);
    }

    private static String bought(Holding holding) {
        return switch (holding) {
            case Bought it -> it.order().id();
            case Subscribed it -> it.subscription().id();
            case Held _, Finished _ -> "";
        };
    }

    private static String line(Holding holding) {
        return switch (holding) {
            case Bought it -> it.line().line();
            case Subscribed _, Held _, Finished _ -> "";
        };
    }

    private static int seat(Holding holding) {
        return switch (holding) {
            case Bought it -> it.seat();
            case Subscribed _, Held _, Finished _ -> 0;
        };
    }

    /** The windows given so far, in the order of their holdings' starts. */
    private static final class Chain {

        /** From {@code at} on so many more of the windows are open, so many more suspended. */
        private record Turn(Instant at, int open, int suspended) {}

        private final PriorityQueue<Turn> toCome = new PriorityQueue<>(Comparator.comparing(Turn::at));
        private int open;
        private int suspended;
        private @Nullable Instant lastEnd;

        /** @param moment not before any that was asked about earlier */
        boolean isInterruptedAt(Instant moment) {
            while (!toCome.isEmpty() && !toCome.element().at.isAfter(moment)) {
                var turn = toCome.remove();
                open += turn.open;
                suspended += turn.suspended;
            }
            return open == 0 && suspended > 0;
        }

        void add(Stretch stretch) {
            lastEnd = stretch.span().end().orElse(Instant.MAX);
            stretch.open().asList().forEach(window -> add(window, 1, 0));
            stretch.suspended().asList().forEach(window -> add(window, 0, 1));
        }

        private void add(Window window, int itsOpen, int itsSuspended) {
            toCome.add(new Turn(window.start(), itsOpen, itsSuspended));
            window.end().ifPresent(end -> toCome.add(new Turn(end, -itsOpen, -itsSuspended)));
        }
    }
}
