package yoru.standins.shop;

import java.util.List;
import org.springframework.context.annotation.Profile;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;
import yoru.standins.Standins;
import yoru.standins.practice.Outbox;

/** What the shop tells programs. */
@RestController
@Profile("shop")
class ShopApi {

    private final Store store;
    private final History history;
    private final Outbox outbox;
    private final ShopSettings settings;

    ShopApi(Store store, History history, Outbox outbox, ShopSettings settings) {
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
