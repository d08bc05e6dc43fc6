package yoru.standins.practice;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import org.springframework.core.io.ClassPathResource;

/** Names for people who never lived. */
public final class InventedNames {

    public static final List<String> GIVEN = words("demo/given-names.txt");
    public static final List<String> FAMILY = words("demo/family-names.txt");

    private InventedNames() {}

    /** An address for a name. */
    public static String address(String name, String host) {
        return name.toLowerCase(Locale.ROOT).replace(' ', '.') + "@" + host;
    }

    private static List<String> words(String file) {
        try {
            return new ClassPathResource(file)
                    .getContentAsString(StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.isBlank())
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
