package yoru.core.rulebook;

import java.util.List;

public record Course(String id, String title, List<String> categories) {
    public Course {
        categories = List.copyOf(categories);
    }
}
