package yoru.core.rulebook;

/** What a link opens. */
public sealed interface Target {

    /** A whole course. */
    record OfCourse(String course) implements Target {}

    /** As it is written in rows: {@code course/queen-rearing}. */
    default String path() {
        return switch (this) {
            case OfCourse it -> "course/" + it.course;
        };
    }
}
