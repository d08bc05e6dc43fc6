package yoru.standins.practice;

import java.util.concurrent.ThreadLocalRandom;
import org.springframework.stereotype.Component;

/** How a practice system behaves just now: well, unless it was told to misbehave. Forgotten when it ends. */
@Component
public class Manners {

    /**
     * @param slowMillis before each answer
     * @param down breaks off every connection
     * @param busy asks for patience: 429 with Retry-After
     * @param faultyOneIn answers one request in so many with 500; 0 = none
     * @param forgetful says that it did as told, and did nothing
     * @param twice sends each report twice
     * @param lateSeconds before a report is sent
     * @param shuffled sends reports in any order
     * @param otherSecret signs with a secret that nobody knows
     */
    public record Now(
            int slowMillis,
            boolean down,
            boolean busy,
            int faultyOneIn,
            boolean forgetful,
            boolean twice,
            int lateSeconds,
            boolean shuffled,
            boolean otherSecret) {

        public int slowSeconds() {
            return slowMillis / 1000;
        }

        public boolean isWell() {
            return equals(WELL);
        }
    }

    public static final Now WELL = new Now(0, false, false, 0, false, false, 0, false, false);

    private volatile Now now = WELL;

    public Now now() {
        return now;
    }

    public void become(Now next) {
        now = next;
    }

    /** Whether it is this request's turn to fail. */
    public boolean fails() {
        int oneIn = now.faultyOneIn;
        return oneIn > 0 && ThreadLocalRandom.current().nextInt(oneIn) == 0;
    }

    /** Holds the answer back as long as it should. */
    public void dawdle() {
        if (now.slowMillis > 0) {
            try {
                Thread.sleep(now.slowMillis);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }
}
