package yoru.server.access;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

@RestController
class ServedController {

    private final ServedByHand served;

    ServedController(ServedByHand served) {
        this.served = served;
    }

    record MarkedBy(@NotBlank @Size(max = 500) String target) {}

    record CountedAsServed(int people) {}

    /** Whoever has something now counts as served by a follow-up: somebody did by hand before what it does. */
    @PostMapping("/api/mapping/followups/{followup}/adopt")
    CountedAsServed adopt(
            @PathVariable String followup,
            @Valid @RequestBody MarkedBy by,
            @AuthenticationPrincipal Principal operator) {
        return new CountedAsServed(served.take(followup, by.target, operator.getName()));
    }
}
