package yoru.formats.imports;

import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Things of a rulebook as a table names them: by their id, or by their title in whatever case. */
final class IdOrTitle {

    private final Set<String> ids = new HashSet<>();
    private final Map<String, List<String>> byTitle;

    <T> IdOrTitle(Collection<T> things, Function<T, String> id, Function<T, String> title) {
        things.forEach(thing -> ids.add(id.apply(thing)));
        this.byTitle = things.stream()
                .collect(Collectors.groupingBy(
                        thing -> plain(title.apply(thing)), Collectors.mapping(id, Collectors.toList())));
    }

    private static String plain(String title) {
        return title.strip().toLowerCase(Locale.ROOT);
    }

    /** The ids of what a text may mean: an id means itself alone; none = nothing is called that. */
    List<String> meant(String text) {
        return ids.contains(text) ? List.of(text) : byTitle.getOrDefault(plain(text), List.of());
    }
}
