package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.springframework.modulith.core.ApplicationModule;
import org.springframework.modulith.core.ApplicationModules;
import org.springframework.modulith.core.DependencyType;

class ModulesTests {

    private static final Path DRAWING = Path.of("..", "docs", "modules.md");

    private final ApplicationModules modules = ApplicationModules.of(YoruServer.class);

    /** No cycles, nothing but what a module declares in its package-info, nothing of another's insides. */
    @Test
    void capabilitiesKeepTheirBorders() {
        modules.verify();
        assertThat(modules.stream()).hasSizeGreaterThan(8);
    }

    /** YORU_WRITE_MODULES=yes draws it anew. */
    @Test
    void theDrawingShowsThemAsTheyAre() throws IOException {
        var drawing = drawing();
        if ("yes".equals(System.getenv("YORU_WRITE_MODULES"))) {
            Files.writeString(DRAWING, drawing);
        }
        assertThat(Files.readString(DRAWING)).isEqualTo(drawing);
    }

    private String drawing() {
        Map<String, Set<String>> uses = new TreeMap<>();
        modules.stream().filter(module -> !module.isOpen()).forEach(module -> uses.put(name(module), usedBy(module)));
        var arrows = uses.entrySet().stream()
                .flatMap(it -> it.getValue().stream()
                        .filter(used -> it.getValue().stream()
                                .noneMatch(other -> !other.equals(used) && leadsTo(uses, other, used)))
                        .map(used -> "  %s --> %s%n".formatted(it.getKey(), used)))
                .collect(Collectors.joining());
        return """
                # The server's modules

                Drawn by the build from the code (`ModulesTests`; `YORU_WRITE_MODULES=yes` draws it anew). An arrow leads to what a module
                uses; what it uses by way of another is left out, and so is `platform`, on which all stand. What each is for stands in
                its `package-info.java`, with all that it may use.

                ```mermaid
                flowchart TD
                %s```
                """.formatted(arrows);
    }

    private static boolean leadsTo(Map<String, Set<String>> uses, String from, String to) {
        return uses.getOrDefault(from, Set.of()).stream().anyMatch(next -> next.equals(to) || leadsTo(uses, next, to));
    }

    private Set<String> usedBy(ApplicationModule module) {
        return module.getDirectDependencies(modules, DependencyType.values())
                .uniqueModules()
                .filter(used -> !used.isOpen())
                .map(ModulesTests::name)
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private static String name(ApplicationModule module) {
        return module.getIdentifier().toString();
    }
}
