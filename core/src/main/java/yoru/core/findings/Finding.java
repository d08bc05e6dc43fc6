package yoru.core.findings;

/** Something a person should look at. */
public sealed interface Finding {

    /** People paid for it and nothing opens. */
    record OpensNothing(String product, String title, int buyers) implements Finding {}

    /** People ordered something that no connected catalogue knows. */
    record UnknownProduct(String product, int buyers) implements Finding {}

    /** One can get into the course without Yoru. */
    record SideDoor(String course, String title, CourseState.Door door, int links) implements Finding {}

    /** The course is mapped but has no content. */
    record Empty(String course, String title) implements Finding {}

    /** The course is mapped but is not published. */
    record Unpublished(String course, String title) implements Finding {}

    /** Nothing opens the course. */
    record NoWayIn(String course, String title) implements Finding {}

    /** A link opens a course that the classroom no longer lists. */
    record Vanished(String course, int links) implements Finding {}

    /**
     * A link names a category that nothing is in.
     *
     * @param thing what should be in it, "product" or "course"
     */
    record CoversNothing(String link, String thing, String category) implements Finding {}
}
