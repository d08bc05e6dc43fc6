package yoru.server.reception;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.Period;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.policies.Policies;
import yoru.server.accounts.SignedIn;
import yoru.server.platform.ProblemException;
import yoru.server.policies.SchoolPolicies;

/** The school's policies, and for how many people each matters. */
@RestController
class PolicyController {

    private static final LocalDate LATEST = LocalDate.EPOCH.plusYears(10);

    private final SchoolPolicies policies;
    private final PolicyEffects effects;
    private final SamePeople samePeople;

    PolicyController(SchoolPolicies policies, PolicyEffects effects, SamePeople samePeople) {
        this.policies = policies;
        this.effects = effects;
        this.samePeople = samePeople;
    }

    /**
     * @param giftsKeptFor ISO 8601 period; none = without end
     * @param late ISO 8601 period of days after which follow-ups no longer write about something; none = as it is
     * @param outwards what becomes of tags, lists and fields of somebody whom a system of contacts does not know; none = as it is
     * @param ownPage whether letters carry a link to a page of the reader's own; none = as it is
     * @param guestsProve whether a guest's order is let in once they have proved their address; none = as it is
     */
    record SchoolPolicy(
            @NotNull Policies.Guests guests,
            @NotNull Policies.UnknownContacts unknownContacts,
            @NotNull Policies.Joining joining,
            @Nullable String giftsKeptFor,
            @Nullable @Pattern(regexp = "P[0-9]{1,3}D") String late,
            Policies.@Nullable UnknownContacts outwards,
            @Nullable Boolean ownPage,
            @Nullable Boolean guestsProve) {}

    record PolicyPage(SchoolPolicy policies, PolicyEffects.Effects effects) {}

    record JoinedNow(int joined) {}

    @GetMapping("/api/policies")
    PolicyPage page() {
        var now = policies.inForce();
        return new PolicyPage(
                new SchoolPolicy(
                        now.guests(),
                        now.unknownContacts(),
                        now.joining(),
                        now.giftsKeptFor() == null ? null : now.giftsKeptFor().toString(),
                        now.late().toString(),
                        now.outwards(),
                        now.ownPage(),
                        now.guestsProve()),
                effects.now());
    }

    @PutMapping("/api/policies")
    PolicyPage change(@Valid @RequestBody SchoolPolicy wanted, @AuthenticationPrincipal SignedIn operator) {
        var now = policies.inForce();
        policies.change(
                new Policies(
                        wanted.guests,
                        wanted.unknownContacts,
                        wanted.joining,
                        period(wanted.giftsKeptFor),
                        wanted.late == null ? now.late() : Period.parse(wanted.late),
                        wanted.outwards == null ? now.outwards() : wanted.outwards,
                        wanted.ownPage == null ? now.ownPage() : wanted.ownPage,
                        wanted.guestsProve == null ? now.guestsProve() : wanted.guestsProve),
                operator.name());
        return page();
    }

    private static @Nullable Period period(@Nullable String text) {
        if (text == null || text.isBlank()) {
            return null;
        }
        try {
            var period = Period.parse(text.strip());
            var end = LocalDate.EPOCH.plus(period);
            if (!period.isNegative() && end.isAfter(LocalDate.EPOCH) && !end.isAfter(LATEST)) {
                return period;
            }
        } catch (DateTimeException e) {
            // said below
        }
        throw ProblemException.inField(
                "The policies were not changed",
                "giftsKeptFor",
                "is “" + text + "”; gifts can be kept for a day to ten years, written as P90D or P1Y");
    }

    /** Joins those who are the same as a system says, whatever the policy is. */
    @PostMapping("/api/policies/join")
    JoinedNow join(@AuthenticationPrincipal SignedIn operator) {
        return new JoinedNow(samePeople.joinAll(operator.name()));
    }
}
