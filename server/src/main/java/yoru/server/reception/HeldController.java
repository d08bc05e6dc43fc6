package yoru.server.reception;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.function.Predicate;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.SignedIn;
import yoru.server.desk.ActConsequences;

/** What waits to be let in. */
@RestController
class HeldController {

    private final HeldBack held;

    HeldController(HeldBack held) {
        this.held = held;
    }

    /** @param about what the cases are about, as the list names it */
    record HeldCases(@NotEmpty @Size(max = 1_000) List<@NotNull String> about) {}

    /**
     * @param decided about how many cases it was decided
     * @param before how many waited no longer: somebody else was faster
     */
    record Decided(int decided, int before) {}

    @GetMapping("/api/held")
    HeldBack.HeldList waiting() {
        return held.waiting();
    }

    @GetMapping("/api/held/consequence")
    List<ActConsequences.Touched> consequence(@RequestParam String about) {
        return held.consequence(about);
    }

    @PostMapping("/api/held/release")
    Decided release(@Valid @RequestBody HeldCases cases, @AuthenticationPrincipal SignedIn operator) {
        return decided(cases, about -> held.release(about, operator.name()));
    }

    @PostMapping("/api/held/leave-out")
    Decided leaveOut(@Valid @RequestBody HeldCases cases, @AuthenticationPrincipal SignedIn operator) {
        return decided(cases, about -> held.leaveOut(about, operator.name()));
    }

    /** Case by case, each in a transaction of its own: sent again, it goes on where it stopped. */
    private static Decided decided(HeldCases cases, Predicate<String> decide) {
        int decided = (int) cases.about.stream().filter(decide).count();
        return new Decided(decided, cases.about.size() - decided);
    }
}
