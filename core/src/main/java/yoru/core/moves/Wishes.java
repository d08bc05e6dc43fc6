package yoru.core.moves;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yoru.core.access.HowLong;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;
import yoru.core.systems.Matter;
import yoru.core.systems.Wish;

/** What the connected systems should hold about one person, in the order in which they are told. */
public final class Wishes {

    private final Landscape landscape;
    private final ZoneId zone;

    /** @param zone in which the school counts days */
    public Wishes(Landscape landscape, ZoneId zone) {
        this.landscape = landscape;
        this.zone = zone;
    }

    /**
     * What is to be said after something has moved.
     *
     * @param open all that is open for the person now
     */
    List<Wish> after(Moves moves, Collection<Told> open) {
        var wishes = new LinkedHashSet<Wish>();
        moves.opened().forEach(it -> open(wishes, it.target(), it.howLong()));
        moves.changed().forEach(it -> open(wishes, it.target(), it.howLong()));
        moves.ended().forEach(it -> closed(wishes, it.target()));
        // somebody may have taken it off in a system
        open.stream()
                .filter(it -> it.target() instanceof Target.OfTag)
                .forEach(it -> open(wishes, it.target(), it.howLong()));
        nextEnd(wishes, open);
        return List.copyOf(wishes);
    }

    /**
     * All that one system should hold, whatever it was told while it was off.
     *
     * @param open all that is open for the person now
     * @param toldOpen what the system was told that they should have
     */
    public List<Wish> ofSystem(String system, Collection<Told> open, Collection<Target> toldOpen) {
        var wishes = new LinkedHashSet<Wish>();
        var targets = open.stream().map(Told::target).collect(Collectors.toSet());
        toldOpen.stream().filter(target -> !targets.contains(target)).forEach(it -> closed(wishes, it));
        open.forEach(it -> open(wishes, it.target(), it.howLong()));
        nextEnd(wishes, open);
        return wishes.stream().filter(wish -> wish.system().equals(system)).toList();
    }

    private void open(Set<Wish> wishes, Target target, HowLong howLong) {
        landscape
                .toldOf(target)
                .forEach(system -> add(wishes, system, Wish.open(system.id(), new Matter.Access(target), howLong)));
    }

    private void closed(Set<Wish> wishes, Target target) {
        landscape.toldOf(target).forEach(system -> wishes.add(Wish.closed(system.id(), new Matter.Access(target))));
    }

    private void nextEnd(Set<Wish> wishes, Collection<Told> open) {
        var day = nextEnd(open.stream().map(Told::howLong))
                .map(LocalDate::toString)
                .orElse("");
        landscape
                .able(Ability.FIELDS)
                .forEach(system -> system.nextEndField()
                        .ifPresent(name -> add(wishes, system, Wish.field(system.id(), name, day))));
    }

    /** What a field should hold, wherever there are fields. */
    public static List<Wish> field(Landscape landscape, String name, String value) {
        var wishes = new LinkedHashSet<Wish>();
        landscape.able(Ability.FIELDS).forEach(system -> add(wishes, system, Wish.field(system.id(), name, value)));
        return List.copyOf(wishes);
    }

    /** An account first, where there is anything to be had. */
    private static void add(Set<Wish> wishes, ConnectedSystem system, Wish wish) {
        if (system.can(Ability.ACCOUNTS) && !wish.isOfNothing()) {
            wishes.add(Wish.account(system.id()));
        }
        wishes.add(wish);
    }

    /** The day on which the first of these ends that a payment will not move on. */
    private Optional<LocalDate> nextEnd(Stream<HowLong> lasting) {
        return lasting.flatMap(it -> it.realEnd().stream())
                .min(Instant::compareTo)
                .map(end -> LocalDate.ofInstant(end, zone));
    }
}
