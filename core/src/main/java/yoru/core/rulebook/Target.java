package yoru.core.rulebook;

/** What a person can have access to: one thing that stands in rows. */
public sealed interface Target {

    /** A course, with what of it needs no section of its own. */
    record OfCourse(String course) implements Target {}

    record OfSection(String course, String section) implements Target {}

    record OfTag(String tag) implements Target {}

    record OfLevel(String level) implements Target {}

    record OfGroup(String group) implements Target {}

    record OfArea(String area) implements Target {}

    record OfDownload(String download) implements Target {}

    record OfList(String list) implements Target {}

    /** As it is written in rows: {@code course/queen-rearing}. */
    default String path() {
        return switch (this) {
            case OfCourse it -> "course/" + it.course;
            case OfSection it -> "section/" + it.course + "/" + it.section;
            case OfTag it -> "tag/" + it.tag;
            case OfLevel it -> "level/" + it.level;
            case OfGroup it -> "group/" + it.group;
            case OfArea it -> "area/" + it.area;
            case OfDownload it -> "download/" + it.download;
            case OfList it -> "list/" + it.list;
        };
    }

    /** Its kind, as its path begins: "course", "tag". */
    default String sort() {
        return path().substring(0, path().indexOf('/'));
    }

    /**
     * What {@link #path()} wrote.
     *
     * @throws IllegalArgumentException when it is no such path
     */
    static Target read(String path) {
        int slash = path.indexOf('/');
        var id = path.substring(slash + 1);
        var sort = path.substring(0, Math.max(0, slash));
        if (sort.equals("section") && id.indexOf('/') >= 0) {
            int last = id.lastIndexOf('/');
            return new OfSection(id.substring(0, last), id.substring(last + 1));
        }
        return Sort.named(sort)
                .flatMap(it -> it.target(id))
                .orElseThrow(() -> new IllegalArgumentException("no target: " + path));
    }
}
