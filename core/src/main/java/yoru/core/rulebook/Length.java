package yoru.core.rulebook;

import java.time.Period;

/** How long a link opens its targets. */
public sealed interface Length {

    /** As long as the source is held; on a product that is paid once: always. */
    record Held() implements Length {}

    /** For a period from the start, or until the source is no longer held, whichever comes first. */
    record Lasting(Period period) implements Length {
        public Lasting {
            if (period.isNegative()) {
                throw new IllegalArgumentException("a length cannot be negative");
            }
        }
    }
}
