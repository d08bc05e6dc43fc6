package yoru.core.rehearsal;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Thing;

/** Whether what should be so can be so at all: whether everything is there that it names. */
final class ExpectationCheck {

    private static final List<String> OF_TARGETS = List.of("give", "end", "take");
    private static final List<String> OF_TEXTS = List.of("set", "write", "tell");

    private final RulebookIndex index;
    private final Surroundings around;
    private final Map<String, Player> people;
    private final List<Unusable> faults;

    ExpectationCheck(RulebookIndex index, Surroundings around, Map<String, Player> people, List<Unusable> faults) {
        this.index = index;
        this.around = around;
        this.people = people;
        this.faults = faults;
    }

    void check(Scene scene, Expectation expected) {
        var place = scene.place() + ".expect";
        if (scene.who() != null) {
            faults.add(Unusable.of(scene.place() + ".who", "belongs inside `expect`"));
        }
        if (expected.who() != null && !people.containsKey(expected.who())) {
            faults.add(Unusable.noSuch(place + ".who", "person", expected.who(), people.keySet()));
        }
        targets(place + ".open", expected.open());
        targets(place + ".closed", expected.closed());
        expected.until().keySet().forEach(target -> target(place + ".until." + target.path(), target));
        var exactly = expected.exactly();
        if (exactly != null) {
            targets(place + ".exactly", exactly);
            for (int at = 0; at < exactly.size(); at++) {
                if (exactly.get(at) instanceof Target.OfSection) {
                    faults.add(Unusable.of(
                            place + ".exactly[" + at + "]", "sections are left out here; say them under `open`"));
                }
            }
        }
        done(place + ".done", expected.done());
        done(place + ".not-done", expected.notDone());
        expected.told().forEach((system, held) -> {
            var its = place + ".told." + system;
            if (around.named(system).isEmpty()) {
                faults.add(Unusable.noSuch(its, "system", system, around.names()));
            } else {
                targets(its + ".open", held.open());
                targets(its + ".closed", held.closed());
            }
        });
    }

    private void targets(String place, List<Target> targets) {
        for (int at = 0; at < targets.size(); at++) {
            target(place + "[" + at + "]", targets.get(at));
        }
    }

    private void target(String place, Target target) {
        if (!index.knows(new Destination.Exactly(target))) {
            faults.add(Unusable.noSuch(place, target.sort(), target.path(), all(target)));
        }
    }

    private Collection<String> all(Target target) {
        return target instanceof Target.OfSection
                ? index.rulebook().courses().stream()
                        .flatMap(course -> sections(course).stream())
                        .toList()
                : Sort.named(target.sort()).stream()
                        .flatMap(sort -> index.rulebook().all(sort).stream())
                        .map(Thing::id)
                        .map(id -> target.sort() + "/" + id)
                        .toList();
    }

    private static List<String> sections(Course course) {
        return course.sections().stream()
                .map(Section::id)
                .map(id -> new Target.OfSection(course.id(), id).path())
                .toList();
    }

    private void done(String place, List<String> rows) {
        for (int at = 0; at < rows.size(); at++) {
            var row = rows.get(at);
            var its = place + "[" + at + "]";
            int space = row.indexOf(' ');
            var word = row.substring(0, Math.max(0, space));
            if (OF_TARGETS.contains(word)) {
                try {
                    target(its, Target.read(row.substring(space + 1)));
                } catch (IllegalArgumentException e) {
                    faults.add(Unusable.of(its, "must name a target after `" + word + "`, such as tag/guest"));
                }
            } else if (!OF_TEXTS.contains(word)) {
                var words = new ArrayList<>(OF_TARGETS);
                words.addAll(OF_TEXTS);
                faults.add(new Unusable(
                        its, "must begin with what is done: " + String.join(", ", words), word, Set.copyOf(words)));
            }
        }
    }
}
