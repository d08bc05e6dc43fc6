package yoru.server.charges;

import jakarta.validation.constraints.NotBlank;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.ledger.PersonKey;

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

    /** The charge of an order; an empty list where there is none. */
    @GetMapping("/api/charges")
    List<Charges.ShownCharge> charges(@RequestParam @NotBlank String order) {
        return charges.of(order);
    }
}
