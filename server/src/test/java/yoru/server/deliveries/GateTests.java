package yoru.server.deliveries;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Random;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** As many at once as the system should bear, whatever happens inside. */
class GateTests {

    private static final int AT_ONCE = 4;

    private final Gate gate = new Gate(
            "classroom",
            0,
            new YoruSettings.Delivery(
                    Duration.ofSeconds(1),
                    Duration.ofSeconds(1),
                    Duration.ofSeconds(1),
                    Duration.ofSeconds(1),
                    Duration.ofSeconds(1),
                    Duration.ofSeconds(1),
                    AT_ONCE),
            Clock.systemUTC(),
            new Random(1));

    @Test
    void aPlaceIsGivenBackOnceHoweverOftenItIsSaid() {
        for (int person = 0; person < 20; person++) {
            var permit = (Gate.Permit) gate.enter(person);
            permit.done(Duration.ofMillis(5));
            permit.failed(Duration.ofMillis(5), new TroubleException(Trouble.REFUSED, "no"));
            permit.close();
        }
        assertThat(roomFor()).isEqualTo(AT_ONCE);
    }

    @Test
    void aPlaceIsGivenBackWhereNobodySaidHowItWent() {
        for (int person = 0; person < 20; person++) {
            try (var permit = (Gate.Permit) gate.enter(person)) {
                assertThat(permit).isNotNull();
            }
        }
        assertThat(roomFor()).isEqualTo(AT_ONCE);
    }

    @Test
    void aPlaceOfAQuickSystemIsWaitedForAMoment() {
        ((Gate.Permit) gate.enter(0)).done(Duration.ofMillis(5));
        var inside = IntStream.range(0, AT_ONCE)
                .mapToObj(person -> (Gate.Permit) gate.enter(person))
                .toList();
        assertThat(gate.closed()).as("it is worth coming").isEmpty();
        var entered = new AtomicReference<Gate.Entrance>();
        var waiting = new Thread(() -> {
            do {
                entered.set(gate.enter(AT_ONCE));
            } while (entered.get() instanceof Gate.ComeAgain);
        });
        waiting.start();
        await().until(() -> waiting.getState() == Thread.State.TIMED_WAITING);
        inside.getFirst().done(Duration.ofMillis(60));
        await().until(() -> entered.get() instanceof Gate.Permit);
        assertThat(gate.closed()).as("slow and full: come again").isPresent();
        assertThat(gate.enter(AT_ONCE + 1)).isInstanceOf(Gate.ComeAgain.class);
    }

    private int roomFor() {
        var inside = new ArrayList<Gate.Permit>();
        while (gate.enter(inside.size()) instanceof Gate.Permit permit) {
            inside.add(permit);
        }
        inside.forEach(Gate.Permit::close);
        return inside.size();
    }
}
