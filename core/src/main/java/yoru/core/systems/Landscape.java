package yoru.core.systems;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import yoru.core.rulebook.Target;

/** What is connected, and so who is told about what. */
public record Landscape(List<ConnectedSystem> systems) {

    /** Nothing is connected. */
    public static final Landscape EMPTY = new Landscape(List.of());

    public Landscape {
        systems = List.copyOf(systems);
    }

    /** As it would be, were these on too. */
    public Landscape with(Set<String> switchedOn) {
        return new Landscape(systems.stream()
                .map(system -> switchedOn.contains(system.id()) ? system.switchedOn() : system)
                .toList());
    }

    /** Where something is found: the system as people call it, and the address in it. */
    public record Where(String system, String address) {}

    /** Those that are on and can do something. */
    public List<ConnectedSystem> able(Ability ability) {
        return systems.stream()
                .filter(system -> system.isOn() && system.can(ability))
                .toList();
    }

    /** Who is told about a target: those that can, and of them those that list it, if any system does. */
    public List<ConnectedSystem> toldOf(Target target) {
        var able = Ability.neededFor(target).map(this::able).orElse(List.of());
        if (able.size() < 2 || !isListed(target)) {
            return able;
        }
        // a system that lists nothing, as a folder, has whatever it is told
        return able.stream()
                .filter(system -> system.lists(target) || !system.can(Ability.CATALOGUE))
                .toList();
    }

    /** Those of them that have it to open: a folder has whatever it is told, and a tag is made where it is put on. */
    public List<ConnectedSystem> holdersOf(Target target) {
        return toldOf(target).stream()
                .filter(system ->
                        system.lists(target) || !system.can(Ability.CATALOGUE) || target instanceof Target.OfTag)
                .toList();
    }

    /** Whether nobody is told about it who would be if only a system were on. */
    public boolean isOnlyListedWhereOff(Target target) {
        return toldOf(target).isEmpty() && systems.stream().anyMatch(system -> !system.isOn() && system.lists(target));
    }

    public boolean carriesLetters() {
        return !able(Ability.MESSAGES).isEmpty();
    }

    /** Where people find what has opened for them; nothing where no system says. */
    public Optional<Where> where(Target target) {
        return toldOf(target).stream()
                .flatMap(system -> system.address(target).stream().map(address -> new Where(system.title(), address)))
                .findFirst();
    }

    /** A tag is made where it is first put on, so that no list tells who can have it. */
    private boolean isListed(Target target) {
        return !(target instanceof Target.OfTag) && systems.stream().anyMatch(system -> system.lists(target));
    }
}
