package yoru.server.charges;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.ledger.PersonKey;
import yoru.server.accounts.SignedIn;

/** What people left with shops, and what was charged. */
@RestController
class ChargeController {

    private final Charges charges;

    ChargeController(Charges charges) {
        this.charges = charges;
    }

    /** @param person an address */
    @GetMapping("/api/charges/methods")
    List<Charges.OnFile> methods(@RequestParam @NotBlank String person) {
        return charges.onFile(PersonKey.plain(person));
    }

    record ChargeAgain(@NotBlank @Size(max = 200) String order) {}

    /** Has a refused charge asked for once more. */
    @PostMapping("/api/charges/again")
    List<Charges.ShownCharge> again(@Valid @RequestBody ChargeAgain again, @AuthenticationPrincipal SignedIn operator) {
        charges.again(again.order, operator.name());
        return charges.of(again.order);
    }

    /** The charge of an order; an empty list where there is none. */
    @GetMapping("/api/charges")
    List<Charges.ShownCharge> charges(@RequestParam @NotBlank String order) {
        return charges.of(order);
    }
}
