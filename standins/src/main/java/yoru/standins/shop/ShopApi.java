package yoru.standins.shop;

import java.math.BigDecimal;
import java.util.List;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;
import yoru.standins.Standins;
import yoru.standins.practice.Outbox;

/** What the shop tells programs. */
@RestController
@Profile("shop")
class ShopApi {

    private final Store store;
    private final History history;
    private final Methods methods;
    private final Outbox outbox;
    private final ShopSettings settings;

    ShopApi(Store store, History history, Methods methods, Outbox outbox, ShopSettings settings) {
        this.methods = methods;
        this.store = store;
        this.history = history;
        this.outbox = outbox;
        this.settings = settings;
    }

    /** @param checkout how people buy */
    record Listing(List<Listed> products, Checkout checkout) {}

    /**
     * @param guests whether one can buy without an account
     * @param password whether who makes an account is asked for a password
     */
    record Checkout(boolean guests, boolean password) {}

    /** @param basket a link that puts it into the basket */
    record Listed(
            String id,
            String title,
            String category,
            String price,
            String currency,
            boolean thing,
            String about,
            String basket) {}

    @GetMapping("/catalogue")
    Listing catalogue(@RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        var here = ServletUriComponentsBuilder.fromCurrentContextPath().build().toUriString();
        return new Listing(
                store.products().stream()
                        .map(it -> new Listed(
                                it.id(),
                                it.title(),
                                it.category(),
                                it.price().toPlainString(),
                                "EUR",
                                it.thing(),
                                it.about(),
                                here + "/basket/add?product=" + it.id()))
                        .toList(),
                new Checkout(store.setting("guests"), store.setting("passwords")));
    }

    record OnFile(List<Methods.Method> methods) {}

    /** What somebody left. */
    @GetMapping("/methods")
    OnFile methods(
            @RequestParam String email,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        return new OnFile(methods.of(email));
    }

    record ToCharge(String email, String method, BigDecimal amount, String currency, String about) {}

    record Charged(String id) {}

    /** 402 where it is refused; the same key again charges nothing again, and is answered the same. */
    @PostMapping("/charges")
    Charged charge(
            @RequestBody ToCharge asked,
            @RequestHeader("Idempotency-Key") String key,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        if (!asked.currency.equals("EUR") || asked.amount.signum() <= 0) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "an amount in EUR");
        }
        var charge = methods.charge(key, asked.email, asked.method, asked.amount, asked.about)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "no such method"));
        if (!charge.paid()) {
            throw new ResponseStatusException(HttpStatus.PAYMENT_REQUIRED, "the card was refused");
        }
        return new Charged(charge.id());
    }

    /** Makes up the shop's past, once, and begins to report it. */
    @PostMapping("/practice/history")
    Outbox.Progress makeHistory(@RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        history.makeOnce();
        return outbox.progress();
    }

    @GetMapping("/practice/progress")
    Outbox.Progress progress() {
        return outbox.progress();
    }
}
