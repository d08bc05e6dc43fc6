package yoru.core.rulebook;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** The links by which people come to some targets, straight or by way of levels and tags. */
public final class Upstream {

    private final RulebookIndex index;
    private final Set<Target> wanted = new HashSet<>();
    private final List<Target> toDo = new ArrayList<>();

    private Upstream(RulebookIndex index) {
        this.index = index;
    }

    /** In the rulebook's order. */
    public static List<Link> of(RulebookIndex index, Set<Target> targets) {
        var upstream = new Upstream(index);
        targets.forEach(upstream::want);
        while (!upstream.toDo.isEmpty()) {
            upstream.follow(upstream.toDo.removeLast());
        }
        return index.rulebook().links().stream().filter(upstream::leads).toList();
    }

    private void want(Target target) {
        if (wanted.add(target)) {
            toDo.add(target);
        }
    }

    private boolean leads(Link link) {
        return index.targets(link).stream().anyMatch(wanted::contains);
    }

    private void follow(Target target) {
        switch (target) {
            case Target.OfLevel it ->
                index.level(it.level()).flatMap(Level::ladder).stream()
                        .flatMap(ladder -> index.levelsOn(ladder).stream())
                        .forEach(this::want);
            // a course, or a part of it, can also be chosen
            case Target.OfCourse _, Target.OfSection _ ->
                index.rulebook().levels().stream()
                        .filter(level -> level.allowance().isPresent())
                        .forEach(this::want);
            case Target.OfTag _, Target.OfGroup _, Target.OfArea _, Target.OfDownload _, Target.OfList _ -> {}
        }
        index.rulebook().links().stream()
                .filter(link -> index.targets(link).contains(target))
                .flatMap(link -> held(link.from()))
                .forEach(this::want);
    }

    private void want(Level level) {
        want(new Target.OfLevel(level.id()));
    }

    private static Stream<Target> held(Source source) {
        return switch (source) {
            case Source.OfLevel it -> Stream.of(new Target.OfLevel(it.level()));
            case Source.OfTag it -> Stream.of(new Target.OfTag(it.tag()));
            case Source.OfProduct _, Source.OfOption _, Source.OfCategory _, Source.OfCompleted _ -> Stream.empty();
        };
    }
}
