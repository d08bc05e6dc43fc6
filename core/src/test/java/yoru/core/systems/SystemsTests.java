package yoru.core.systems;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yoru.core.World;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Target;
import yoru.core.systems.Difference.Has;
import yoru.core.systems.Difference.Kind;

class SystemsTests {

    private static final Instant NOON = Instant.parse("2026-05-01T12:00:00Z");

    @Test
    void aDifferenceOfLessThanASecondIsNone() {
        assertThat(kinds(NOON, NOON.plusMillis(900), true)).isEmpty();
        assertThat(kinds(NOON, NOON.plusMillis(1100), true)).containsExactly(Kind.DIFFERENT);
        assertThat(kinds(NOON, null, true)).containsExactly(Kind.DIFFERENT);
        assertThat(kinds(null, NOON, true)).containsExactly(Kind.DIFFERENT);
        assertThat(kinds(null, null, true)).isEmpty();
    }

    @Test
    void aSystemThatKeepsNoEndsIsInStepWithAnyEnd() {
        assertThat(kinds(NOON, null, false)).isEmpty();
    }

    @Test
    void whatYoruDoesNotDecideAboutIsNobodysExtra() {
        var theirs = new Target.OfTag("likes-honey");
        var ours = new Target.OfTag("bought-honey");
        var found = Map.<Target, Has>of(theirs, new Has(null, false), ours, new Has(null, false));
        assertThat(Difference.between(Map.of(), found, ours::equals))
                .singleElement()
                .satisfies(it -> {
                    assertThat(it.kind()).isEqualTo(Kind.EXTRA);
                    assertThat(it.target()).isEqualTo(ours);
                });
    }

    /** Putting right what is reported, and nothing else, brings the two sides together. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void puttingEveryDifferenceRightLeavesNone(long seed) {
        var random = new Random(seed);
        for (int round = 0; round < 200; round++) {
            var wanted = some(random);
            var found = some(random);
            var differences = Difference.between(wanted, found, target -> true);
            for (Difference difference : differences) {
                switch (difference.kind()) {
                    case MISSING, DIFFERENT -> found.put(difference.target(), difference.wanted());
                    case EXTRA -> found.remove(difference.target());
                }
            }
            assertThat(Difference.between(wanted, found, target -> true))
                    .as("seed %d, round %d", seed, round)
                    .isEmpty();
            assertThat(found.keySet()).isEqualTo(wanted.keySet());
        }
    }

    /** Adding the missing ability closes its gap and no other; what every system can do together leaves none. */
    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13, 14})
    void aGapIsClosedByTheAbilityItNamesAndByNothingElse(long seed) {
        var rulebook = World.of(seed).rulebook();
        var asked = rulebook.links().stream()
                .flatMap(link -> new RulebookIndex(rulebook).targets(link).stream())
                .map(Ability::neededFor)
                .flatMap(Optional::stream)
                .collect(Collectors.toSet());
        assertThat(Gap.in(rulebook, List.of())).extracting(Gap::ability).containsExactlyInAnyOrderElementsOf(asked);
        for (Ability ability : Ability.values()) {
            var left = Gap.in(rulebook, List.of(Set.of(ability)));
            assertThat(left)
                    .extracting(Gap::ability)
                    .as("seed %d", seed)
                    .doesNotContain(ability)
                    .hasSize(asked.size() - (asked.contains(ability) ? 1 : 0));
        }
        assertThat(Gap.in(rulebook, List.of(EnumSet.allOf(Ability.class)))).isEmpty();
    }

    private static List<Kind> kinds(@Nullable Instant wanted, @Nullable Instant found, boolean dated) {
        var target = new Target.OfCourse("first-hive");
        return Difference.between(
                        Map.of(target, new Has(wanted, true)), Map.of(target, new Has(found, dated)), it -> true)
                .stream()
                .map(Difference::kind)
                .toList();
    }

    private static Map<Target, Has> some(Random random) {
        Map<Target, Has> some = new HashMap<>();
        for (int i = random.nextInt(6); i > 0; i--) {
            var target = random.nextBoolean()
                    ? new Target.OfCourse("c" + random.nextInt(4))
                    : new Target.OfTag("t" + random.nextInt(3));
            some.put(target, new Has(random.nextBoolean() ? null : NOON.plusSeconds(random.nextInt(3)), true));
        }
        return some;
    }
}
