package yoru.core.rulebook;

import java.util.List;

/** @param premium whether it takes one of the premium places of an allowance */
public record Course(String id, String title, List<String> categories, boolean premium, List<Section> sections)
        implements Thing {

    public Course {
        categories = List.copyOf(categories);
        sections = List.copyOf(sections);
    }

    public Course(String id, String title, List<String> categories) {
        this(id, title, categories, false, List.of());
    }

    public boolean hasSection(String section) {
        return sections.stream().anyMatch(one -> one.id().equals(section));
    }
}
