package yoru.server.systems;

import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.findings.CourseState;

/**
 * One thing as a system lists it.
 *
 * @param id stable, whatever the thing is called
 * @param details what else there is to say of things of its kind; none where there is nothing
 */
public record Listed(
        ItemKind kind,
        String id,
        String title,
        String category,
        @Nullable Object details) {

    /** What a listed thing is. */
    public enum ItemKind {
        PRODUCT,
        COURSE,
        GROUP,
        AREA,
        DOWNLOAD,
        LIST,
        TAG
    }

    /** @param thing whether it is something to post */
    public record ProductDetails(BigDecimal price, String currency, boolean thing) {}

    public record CourseDetails(boolean content, boolean published, CourseState.Door door, List<Section> sections) {
        public CourseDetails {
            sections = List.copyOf(sections);
        }
    }

    public record Section(String id, String title, String tier) {}
}
