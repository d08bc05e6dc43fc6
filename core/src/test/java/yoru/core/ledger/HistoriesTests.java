package yoru.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yoru.core.Shop;
import yoru.core.ledger.Happening.GiftClaimed;
import yoru.core.ledger.Happening.GrantEnded;
import yoru.core.ledger.Happening.OrderCancelled;
import yoru.core.ledger.Happening.OrderPaid;
import yoru.core.ledger.Happening.PersonErased;
import yoru.core.ledger.Happening.PersonMerged;
import yoru.core.ledger.Happening.PersonParted;
import yoru.core.ledger.Happening.SubscriptionRenewed;

/** Whose facts are whose, and which of repeated ones count. */
class HistoriesTests {

    private static final List<String> PEOPLE = List.of("ada", "ben", "cleo", "dora", "eli", "fern");

    private final Shop shop = new Shop();
    private final List<Fact> facts = new ArrayList<>();

    private void at(int day, String person, Happening happening) {
        facts.add(shop.fact(person, Shop.day(day), happening));
    }

    private Histories histories() {
        return Histories.of(Ledger.of(facts));
    }

    @Test
    void whatWasSaidOfOneCountsForWhomTheyWereJoinedInto() {
        facts.add(shop.placed("O1", "ada", Shop.day(0), Shop.line("1", "FIRST", "90.00")));
        at(1, "ada", new PersonMerged("ben"));
        at(2, "ben", new PersonMerged("cleo"));
        assertThat(histories().personOf("ada")).isEqualTo("cleo");
        assertThat(histories().order("O1").orElseThrow().person()).isEqualTo("cleo");
        assertThat(histories().person("cleo").orders()).hasSize(1);
        assertThat(histories().person("ada").orders()).isEmpty();
        assertThat(histories().mergedInto("ada")).contains("ben");
    }

    @Test
    void aSecondJoinTakesAlongWhomTheyWereJoinedIntoAndACircleIsIgnored() {
        at(1, "ada", new PersonMerged("ben"));
        at(2, "ada", new PersonMerged("cleo"));
        at(3, "cleo", new PersonMerged("ada"));
        assertThat(histories().personOf("ben")).isEqualTo("cleo");
        assertThat(histories().personOf("ada")).isEqualTo("cleo");
        assertThat(histories().personOf("cleo")).isEqualTo("cleo");
    }

    @Test
    void whatWasPartedIsAsIfItHadNeverBeenJoinedButOnlyTheLastJoinOfThatPersonIsTakenBack() {
        at(1, "ada", new PersonMerged("ben"));
        at(2, "ben", new PersonMerged("cleo"));
        at(3, "ada", new PersonParted("ben"));
        assertThat(histories().personOf("ada")).isEqualTo("ada");
        assertThat(histories().personOf("ben")).isEqualTo("cleo");
        assertThat(histories().mergedInto("ada")).isEmpty();

        at(4, "ben", new PersonParted("ada"));
        assertThat(histories().personOf("ben"))
                .as("they were never joined with ada")
                .isEqualTo("cleo");
    }

    /** People are one where a chain of joins that stand leads from one to the other, whichever way round each was. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void peopleAreOneWhereJoinsLeadFromOneToTheOther(long seed) {
        var random = new Random(seed);
        for (int run = 0; run < 200; run++) {
            facts.clear();
            Map<String, ArrayDeque<String>> standing = new HashMap<>();
            for (int n = 0; n < 12; n++) {
                var one = PEOPLE.get(random.nextInt(PEOPLE.size()));
                var other = PEOPLE.get(random.nextInt(PEOPLE.size()));
                var own = standing.computeIfAbsent(one, key -> new ArrayDeque<>());
                if (random.nextInt(3) > 0) {
                    at(n, one, new PersonMerged(other));
                    own.addLast(other);
                } else {
                    at(n, one, new PersonParted(other));
                    if (other.equals(own.peekLast())) {
                        own.removeLast();
                    }
                }
            }
            var histories = histories();
            for (String one : PEOPLE) {
                var together = reachable(one, standing);
                for (String other : PEOPLE) {
                    assertThat(histories.isOnePerson(one, other))
                            .as("seed %d, run %d: %s and %s of %s", seed, run, one, other, standing)
                            .isEqualTo(together.contains(other));
                }
                assertThat(together).contains(histories.personOf(one));
                assertThat(histories.personOf(histories.personOf(one))).isEqualTo(histories.personOf(one));
            }
        }
    }

    private static Set<String> reachable(String from, Map<String, ArrayDeque<String>> joins) {
        var seen = new HashSet<>(Set.of(from));
        var left = new ArrayDeque<>(seen);
        while (!left.isEmpty()) {
            var at = left.removeFirst();
            for (String next : PEOPLE) {
                boolean joined = joins.getOrDefault(at, new ArrayDeque<>()).contains(next)
                        || joins.getOrDefault(next, new ArrayDeque<>()).contains(at);
                if (joined && seen.add(next)) {
                    left.addLast(next);
                }
            }
        }
        return seen;
    }

    @Test
    void ofRepeatedFactsTheFirstCounts() {
        facts.add(shop.placed("O1", "ada", Shop.day(0), Shop.line("1", "FIRST", "90.00")));
        facts.add(shop.placed("O1", "ben", Shop.day(1), Shop.line("1", "QUEEN", "180.00")));
        at(2, "ada", new OrderPaid("O1"));
        at(3, "ada", new OrderPaid("O1"));
        at(4, "cleo", new GiftClaimed("O1", "1", 1));
        at(5, "dora", new GiftClaimed("O1", "1", 1));
        var order = histories().order("O1").orElseThrow();
        assertThat(order.person()).isEqualTo("ada");
        assertThat(order.details().lines().getFirst().product()).isEqualTo("FIRST");
        assertThat(order.paid().orElseThrow().time()).isEqualTo(Shop.day(2));
        assertThat(order.claims().get(new Order.Seat("1", 1)).person()).isEqualTo("cleo");
        assertThat(histories().person("dora").claimed()).isEmpty();
    }

    @Test
    void whatIsAboutNothingThatBeganIsSaidToBeSo() {
        at(0, "ada", new OrderCancelled("O9"));
        at(1, "ada", new SubscriptionRenewed("S9", Shop.day(31)));
        at(2, "ada", new GrantEnded("G9"));
        assertThat(histories().warnings())
                .containsExactlyInAnyOrder(
                        new Warning.NoSuchOrder(facts.get(0).id(), "O9"),
                        new Warning.NoSuchSubscription(facts.get(1).id(), "S9"),
                        new Warning.NoSuchGrant(facts.get(2).id(), "G9"));
        assertThat(histories().all())
                .as("nobody has anything of it")
                .allSatisfy(history -> assertThat(history.orders()).isEmpty());
    }

    @Test
    void whoWasErasedHasNothing() {
        facts.add(shop.placed("O1", "ada", Shop.day(0), Shop.line("1", "FIRST", "90.00")));
        at(1, "ben", new PersonMerged("ada"));
        at(2, "ben", new PersonErased());
        assertThat(histories().person("ada").orders()).as("they are one person").isEmpty();
        assertThat(histories().order("O1")).as("the order stays for the books").isPresent();
    }
}
