package yoru.server.deliveries;

import java.security.Principal;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
class DeliveryController {

    private final Repeats repeats;

    DeliveryController(Repeats repeats) {
        this.repeats = repeats;
    }

    record SentAgain(int deliveries) {}

    @PostMapping("/api/deliveries/{id}/again")
    @ResponseStatus(HttpStatus.ACCEPTED)
    SentAgain again(@PathVariable long id, @AuthenticationPrincipal Principal operator) {
        repeats.one(id, operator.getName());
        return new SentAgain(1);
    }

    /** Makes somebody known to a system of contacts, where by policy they are not made by themselves. */
    @PostMapping("/api/deliveries/{id}/make-known")
    @ResponseStatus(HttpStatus.ACCEPTED)
    SentAgain makeKnown(@PathVariable long id, @AuthenticationPrincipal Principal operator) {
        repeats.makeKnown(id, operator.getName());
        return new SentAgain(1);
    }

    @PostMapping("/api/systems/{connection}/deliveries/again")
    @ResponseStatus(HttpStatus.ACCEPTED)
    SentAgain allAgain(@PathVariable String connection, @AuthenticationPrincipal Principal operator) {
        return new SentAgain(repeats.allThatFail(connection, operator.getName()));
    }
}
