package yoru.core.rulebook;

import java.time.LocalDateTime;
import java.time.Period;

/** When a link begins to open its targets. */
public sealed interface Starts {

    /** When its source begins. */
    record AtOnce() implements Starts {}

    /** Some time after its source has begun. */
    record After(Period period) implements Starts {}

    /** At a date (the school's zone), or when its source begins where that is later. */
    record At(LocalDateTime date) implements Starts {}
}
