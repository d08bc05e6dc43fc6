package yoru.core.rulebook;

/**
 * How the school calls the tags of a course.
 *
 * @param pattern with {@value #COURSE} where the course's id goes, such as {@code {course}-bought}
 */
public record TagName(Role role, String pattern) {

    public static final String COURSE = "{course}";

    /** What a tag of a course says of whoever has it. */
    public enum Role {
        /** Bought it: put on by every purchase that opens the course, and taken off with it. */
        BOUGHT,
        /** May be in it: whoever has the tag gets the course. */
        OPENS,
        /** Finished it. */
        FINISHED,
        /** Gave it back. No link puts it on, for links open and close; a reaction to the refund does. */
        REFUNDED
    }

    public String of(String course) {
        return pattern.replace(COURSE, course);
    }
}
