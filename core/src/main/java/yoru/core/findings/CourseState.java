package yoru.core.findings;

/**
 * What the classroom says of a course.
 *
 * @param soldThere whether the classroom sells it itself
 */
public record CourseState(
        String course, String title, boolean hasContent, boolean published, Door door, boolean soldThere) {

    /** Who can walk in besides those whom Yoru lets in. */
    public enum Door {
        /** Nobody. */
        YORU_ONLY,
        /** Anybody who signs up with the classroom. */
        FREE_SIGN_UP,
        /** Everybody, without an account. */
        OPEN_TO_ALL
    }
}
