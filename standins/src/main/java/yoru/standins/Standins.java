package yoru.standins;

import com.samskivert.mustache.Mustache;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Clock;
import java.util.List;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.annotation.Bean;
import org.springframework.http.HttpStatus;
import org.springframework.web.server.ResponseStatusException;

/**
 * Starts stand-ins, named by the arguments: {@code shop}, {@code classroom}, {@code contacts}, {@code community},
 * {@code mailbox}. Several in one process know nothing of each other, each has a context and a port of its own.
 */
@SpringBootApplication
public class Standins {

    private static final List<String> ALL = List.of("shop", "classroom", "contacts", "community", "mailbox");

    public static void main(String[] args) {
        if (args.length == 0 || !ALL.containsAll(List.of(args))) {
            throw new IllegalArgumentException("say which: " + String.join(", ", ALL));
        }
        for (String which : args) {
            var application = new SpringApplication(Standins.class);
            application.setAdditionalProfiles(which);
            application.run();
        }
    }

    @Bean
    Clock clock() {
        return Clock.systemUTC();
    }

    /** What a page has no value for is left empty. */
    @Bean
    Mustache.Compiler mustacheCompiler(Mustache.TemplateLoader templates) {
        return Mustache.compiler().withLoader(templates).defaultValue("");
    }

    /** Refuses whoever does not carry the token. */
    public static void letIn(String authorization, String token) {
        var given = authorization.getBytes(StandardCharsets.UTF_8);
        var wanted = ("Bearer " + token).getBytes(StandardCharsets.UTF_8);
        if (!MessageDigest.isEqual(given, wanted)) {
            throw new ResponseStatusException(HttpStatus.UNAUTHORIZED, "the token is not the one that was agreed");
        }
    }
}
