package yoru.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import yoru.core.Seeds;
import yoru.core.World;
import yoru.core.access.Engine;
import yoru.core.ledger.Ledger;
import yoru.core.rulebook.Target;
import yoru.core.systems.Landscape;

/** A story made of what happened, compared with what it was made of. */
class RecordingTests {

    private static final int SEEDS = Seeds.of(200);

    /** Of a story by chance everything can be said again: recorded, it opens the same to whom it is about. */
    @Test
    void aRecordedStoryEndsWhereItsOwnFactsDo() {
        var opened = new HashSet<Target>();
        LongStream.range(0, SEEDS).forEach(seed -> {
            var world = World.of(seed);
            var rehearsal = new Rehearsal(world.rulebook(), new Surroundings("School", Landscape.EMPTY));
            var first = rehearsal.of(new Tries(seed).script());
            var ledger = Ledger.of(first.facts());
            var end = first.steps().getLast();
            var calendar = new Engine(world.rulebook()).calendar();
            Recording.of(ledger, "ines", calendar).ifPresent(recorded -> {
                assertThat(recorded.people()).noneMatch(it -> Tries.PEOPLE.contains(it.id()));
                var again = rehearsal.of(recorded);
                assertThat(again.faults()).as("seed %d", seed).isEmpty();
                var at = again.steps().getLast().at();
                var is = open(new Engine(world.rulebook()), Ledger.of(again.facts()), "learner", at);
                var was = open(new Engine(world.rulebook()), ledger, "ines", at);
                if (first.steps().stream().noneMatch(step -> step.does().contains("turns out to be"))) {
                    assertThat(is).as("seed %d until %s", seed, end.at()).isEqualTo(was);
                    opened.addAll(is.keySet());
                }
            });
        });
        assertThat(opened).hasSizeGreaterThan(10);
    }

    private static Map<Target, Set<Object>> open(Engine engine, Ledger ledger, String person, Instant at) {
        return engine.evaluate(ledger, at).access().stream()
                .filter(one -> one.person().equals(person) && one.state().isOpen())
                .collect(Collectors.toMap(one -> one.target(), one -> Set.of(one.window())));
    }
}
