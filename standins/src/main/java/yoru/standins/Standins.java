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

/** Starts one stand-in, named by the first argument: {@code shop}, {@code classroom}, {@code contacts}, {@code community} or {@code mailbox}. */
@SpringBootApplication
public class Standins {

    public static void main(String[] args) {
        if (args.length != 1
                || !List.of("shop", "classroom", "contacts", "community", "mailbox")
                        .contains(args[0])) {
            throw new IllegalArgumentException("say which: shop, classroom, contacts, community or mailbox");
        }
        var application = new SpringApplication(Standins.class);
        application.setAdditionalProfiles(args[0]);
        application.run();
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
