package yoru.core.rehearsal;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.rulebook.Target;
import yoru.core.systems.Wish;

/**
 * What came of a story.
 *
 * @param faults why it cannot be told; then there are no steps
 */
public record Report(Script script, List<Unusable> faults, List<Step> steps) {

    public Report {
        faults = List.copyOf(faults);
        steps = List.copyOf(steps);
    }

    /** Whether everything is as it should be. */
    public boolean holds() {
        return faults.isEmpty() && notAsExpected().isEmpty();
    }

    /** What should be otherwise. */
    public List<Expected> notAsExpected() {
        return steps.stream()
                .flatMap(step -> step.expected.stream())
                .filter(it -> !it.holds)
                .toList();
    }

    public int expectations() {
        return steps.stream().mapToInt(step -> step.expected.size()).sum();
    }

    /** All facts that count in the end, each as it came in. */
    public List<Fact> facts() {
        return steps.stream().flatMap(step -> step.facts.stream()).toList();
    }

    /**
     * One step.
     *
     * @param place where it stands in the document
     * @param does what is done, in words
     * @param facts that come in with it
     * @param remarks what is to be said of it besides: that something waits until it is let in, or could not be so
     * @param meets what is met after buying, and from then on at doors that have closed, in words
     * @param passages what came by itself since the step before, then what came of this one
     * @param people how everybody stands after it
     */
    public record Step(
            String place,
            Instant at,
            boolean isBefore,
            String does,
            List<Fact> facts,
            List<String> remarks,
            List<String> meets,
            List<Passage> passages,
            List<Standing> people,
            List<Expected> expected) {
        public Step {
            facts = List.copyOf(facts);
            remarks = List.copyOf(remarks);
            meets = List.copyOf(meets);
            passages = List.copyOf(passages);
            people = List.copyOf(people);
            expected = List.copyOf(expected);
        }
    }

    /**
     * What comes at one moment, for everybody for whom anything does.
     *
     * @param standing how everybody stands then
     */
    public record Passage(Instant at, List<Came> people, List<Standing> standing) {
        public Passage {
            people = List.copyOf(people);
            standing = List.copyOf(standing);
        }
    }

    /**
     * What comes for one person.
     *
     * @param followups what follow-ups do
     * @param told what systems are told, by system
     * @param wanted the same, each thing as it is said to a system, in its order
     */
    public record Came(
            String person,
            String name,
            List<Moved> moved,
            List<Done> followups,
            List<Told> told,
            List<Wanted> wanted,
            List<Letter> letters) {
        public Came {
            moved = List.copyOf(moved);
            followups = List.copyOf(followups);
            told = List.copyOf(told);
            wanted = List.copyOf(wanted);
            letters = List.copyOf(letters);
        }
    }

    /** What becomes of something that is opened. */
    public enum Move {
        OPENED,
        /** Open as before, to another end. */
        CHANGED,
        ENDED
    }

    /**
     * Something that opened or ended.
     *
     * @param howLong in words; of what ended empty
     */
    public record Moved(Target target, String title, Move move, String howLong, String why) {}

    /**
     * What a step of a follow-up does.
     *
     * @param does as in the rows of the command
     */
    public record Done(Instant at, String followup, String title, String step, String does) {}

    /** @param says it in words */
    public record Wanted(Wish wish, String says) {}

    /** @param says what it is told, in words, in this order */
    public record Told(String system, String title, List<String> says) {
        public Told {
            says = List.copyOf(says);
        }
    }

    /**
     * A letter, whole.
     *
     * @param followup that writes it; none = it says what opened
     */
    public record Letter(
            String to,
            String subject,
            String text,
            @Nullable String followup) {}

    /**
     * How somebody stands.
     *
     * @param joinedInto whom they are part of; none = they are themselves
     * @param held what each system is to hold, its titles
     */
    public record Standing(
            String person, String name, @Nullable String joinedInto, List<Open> open, List<Told> held) {
        public Standing {
            open = List.copyOf(open);
            held = List.copyOf(held);
        }
    }

    /** Something that is open, in words. */
    public record Open(Target target, String title, String howLong, String why) {}

    /** Something that should be so. */
    public record Expected(boolean holds, String sentence) {}
}
