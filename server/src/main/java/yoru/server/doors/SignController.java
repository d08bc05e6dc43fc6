package yoru.server.doors;

import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What a system shows at doors and after buying. */
@RestController
class SignController {

    private final Signs signs;

    SignController(Signs signs) {
        this.signs = signs;
    }

    @GetMapping("/api/systems/{id}/shown")
    List<Signs.SignShown> shown(@PathVariable String id) {
        return signs.of(id);
    }

    /** Looks at what it shows now, and says what differs. */
    @PostMapping("/api/systems/{id}/shown/look")
    List<Signs.SignShown> look(@PathVariable String id) {
        signs.compare(id);
        return signs.of(id);
    }

    /** Has it told again what differs or was refused. */
    @PostMapping("/api/systems/{id}/shown/again")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void again(@PathVariable String id) {
        signs.tellAgain(id);
    }
}
