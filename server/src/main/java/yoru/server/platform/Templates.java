package yoru.server.platform;

import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.Template;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.core.io.ClassPathResource;
import org.springframework.stereotype.Component;

/** Pages and letters for people outside: Mustache, in which a name that is not filled in is a fault. */
@Component
public class Templates {

    private final Map<String, Template> read = new ConcurrentHashMap<>();

    /**
     * @param name of a file under {@code templates/}; what is filled into one of HTML is escaped
     * @param values by name; an empty text counts as none where a section asks for it
     */
    public String fill(String name, Map<String, ?> values) {
        return read.computeIfAbsent(name, Templates::read).execute(values);
    }

    private static Template read(String name) {
        try {
            return Mustache.compiler()
                    .escapeHTML(name.endsWith(".html"))
                    .emptyStringIsFalse(true)
                    .compile(new ClassPathResource("templates/" + name).getContentAsString(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
