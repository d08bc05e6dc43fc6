package yoru.server.school;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.SignedIn;
import yoru.server.followups.TrialLetters;
import yoru.server.platform.SchoolSettings;

/** Who the school is, and what comes of it. */
@RestController
class SchoolController {

    private final SchoolSettings settings;
    private final OwnSchool own;
    private final Reach reach;
    private final TrialLetters letters;

    SchoolController(SchoolSettings settings, OwnSchool own, Reach reach, TrialLetters letters) {
        this.settings = settings;
        this.own = own;
        this.reach = reach;
        this.letters = letters;
    }

    /**
     * @param zone of the tz database
     * @param currency ISO 4217
     * @param publicAddress under which people outside reach this server
     * @param version counts the changes; 0 = nobody has said anything
     * @param settled whether zone and currency stay, for something was published under them
     */
    record SchoolPage(String name, String zone, String currency, String publicAddress, int version, boolean settled) {}

    /** @param version which the change is of */
    record SchoolChange(
            @NotBlank @Size(max = 100) String name,
            @NotBlank @Size(max = 60) String zone,
            @NotBlank @Size(max = 3) String currency,
            @NotBlank @Size(max = 200) String publicAddress,
            int version) {}

    record Reached(Reach.Outcome outcome) {}

    record Asked(@NotBlank @Size(max = 200) String publicAddress) {}

    /**
     * @param to the address of whoever asked
     * @param by the system that has taken it
     */
    record LetterSent(String to, String by) {}

    @GetMapping("/api/school")
    SchoolPage page() {
        var said = settings.said();
        return new SchoolPage(
                said.name(),
                said.zone().getId(),
                said.currency().getCurrencyCode(),
                said.publicAddress(),
                said.version(),
                own.isSettled());
    }

    @PutMapping("/api/school")
    SchoolPage change(@Valid @RequestBody SchoolChange wanted, @AuthenticationPrincipal SignedIn operator) {
        own.change(
                new SchoolSettings.Said(
                        wanted.name.strip(),
                        OwnSchool.zone(wanted.zone),
                        OwnSchool.currency(wanted.currency),
                        own.address(wanted.publicAddress),
                        wanted.version),
                operator);
        return page();
    }

    /** Whether an address leads here. */
    @PostMapping("/api/school/reach")
    Reached reach(@Valid @RequestBody Asked asked) {
        return new Reached(reach.of(own.address(asked.publicAddress)));
    }

    /** A letter to whoever asks for one, by the way that all letters go. */
    @PostMapping("/api/school/letter")
    LetterSent letter(@AuthenticationPrincipal SignedIn operator) {
        var by = letters.send(
                operator.email(),
                "A letter from " + settings.name(),
                "Hello " + operator.name()
                        + ",\n\nthis is how letters from Yoru arrive. Look whether the sender is who you want it to be, and"
                        + " whether it landed among what nobody reads.\n\n" + settings.name());
        return new LetterSent(operator.email(), by);
    }

    @Hidden
    @GetMapping(Reach.PATH + "{challenge:[\\w-]{8,64}}")
    ResponseEntity<String> reached(@PathVariable String challenge) {
        return ResponseEntity.ok().contentType(MediaType.TEXT_PLAIN).body(reach.answer(challenge));
    }
}
