package yoru.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import java.time.Clock;
import java.time.Duration;
import java.time.temporal.ChronoUnit;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** To whom somebody writes who has found a hole (RFC 9116); nothing where the installation does not say it. */
@RestController
@Hidden
class SecurityTxt {

    /** RFC 9116, 2.5.5 wants less than a year. */
    private static final Duration GOOD_FOR = Duration.ofDays(180);

    private final YoruSettings settings;
    private final SchoolSettings school;
    private final Clock clock;

    SecurityTxt(YoruSettings settings, SchoolSettings school, Clock clock) {
        this.school = school;
        this.settings = settings;
        this.clock = clock;
    }

    @GetMapping("/.well-known/security.txt")
    ResponseEntity<String> text() {
        var contact = settings.securityContact();
        if (contact == null) {
            return ResponseEntity.notFound().build();
        }
        var expires = clock.instant().plus(GOOD_FOR).truncatedTo(ChronoUnit.DAYS);
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("text/plain;charset=UTF-8"))
                .body("Contact: %s\nExpires: %s\nCanonical: %s/.well-known/security.txt\n"
                        .formatted(contact, expires, school.publicAddress()));
    }
}
