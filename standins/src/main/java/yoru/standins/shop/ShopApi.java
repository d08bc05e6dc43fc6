package yoru.standins.shop;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
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

    private static final List<String> AT_THE_MARKET = List.of("FIRST", "HONEY");

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

    /**
     * How it is paid for over time.
     *
     * @param kind {@code instalments} or {@code recurring}
     * @param count how many instalments
     * @param every an ISO 8601 period
     * @param grace how long after a payment that did not come the shop waits, an ISO 8601 period
     * @param trial how long it is free of charge first
     * @param cycles after how many payments it ends; none = never
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record Plan(
            String kind,
            @Nullable Integer count,
            String every,
            String grace,
            @Nullable String trial,
            @Nullable Integer cycles) {

        private static final String GRACE = "P7D";

        static @Nullable Plan of(Product product) {
            if (product.every() != null) {
                return new Plan("recurring", null, product.every(), GRACE, product.trial(), product.cycles());
            }
            return product.parts() == null ? null : new Plan("instalments", product.parts(), "P1M", GRACE, null, null);
        }
    }

    record ListedOption(String id, String title, String price, String basket) {}

    /**
     * @param seats whether several of it are places for several people
     * @param plan none = it is paid at once
     * @param basket a link that puts it into the basket
     */
    record Listed(
            String id,
            String title,
            String category,
            String price,
            String currency,
            boolean thing,
            String about,
            boolean seats,
            @Nullable Plan plan,
            List<ListedOption> options,
            String basket) {}

    @GetMapping("/catalogue")
    Listing catalogue(@RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        return new Listing(
                listed(store.products().stream()), new Checkout(store.setting("guests"), store.setting("passwords")));
    }

    /** The school's stall at the market: it sells little, and its till has words of its own for it. */
    @GetMapping("/market/catalogue")
    Listing market(@RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        return new Listing(
                listed(AT_THE_MARKET.stream().flatMap(id -> store.product(id).stream())), new Checkout(false, true));
    }

    private static List<Listed> listed(Stream<Product> products) {
        var here = ServletUriComponentsBuilder.fromCurrentContextPath().build().toUriString();
        return products.map(it -> new Listed(
                        it.id(),
                        it.title(),
                        it.category(),
                        it.price().toPlainString(),
                        "EUR",
                        it.thing(),
                        it.about(),
                        it.seats(),
                        Plan.of(it),
                        it.options().stream()
                                .map(option -> new ListedOption(
                                        option.id(),
                                        option.title(),
                                        option.price().toPlainString(),
                                        here + "/basket/add?product=" + option.key()))
                                .toList(),
                        here + "/basket/add?product=" + it.id()))
                .toList();
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

    /**
     * A code of somebody's own.
     *
     * @param percent whole, 1 to 100; none = an amount
     * @param products for which it is good; empty = for all
     * @param expires the last day
     * @param uses how often; none = any number of times
     */
    record ToMake(
            String email,
            @Nullable BigDecimal percent,
            @Nullable BigDecimal amount,
            @Nullable String currency,
            @Nullable Set<String> products,
            @Nullable LocalDate expires,
            @Nullable Integer uses) {}

    record Made(String code) {}

    /** The same code again stays as it is, and is answered the same. */
    @PutMapping("/codes/{code}")
    Made makeCode(
            @PathVariable String code,
            @RequestBody ToMake asked,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, settings.token());
        var percent = asked.percent;
        var amount = asked.amount;
        boolean isOfPercent = percent != null
                && amount == null
                && percent.signum() > 0
                && percent.compareTo(BigDecimal.valueOf(100)) <= 0
                && percent.stripTrailingZeros().scale() <= 0;
        boolean isOfAmount = amount != null && percent == null && amount.signum() > 0 && "EUR".equals(asked.currency);
        if (!code.matches("[A-Z0-9-]{4,40}") || !(isOfPercent || isOfAmount)) {
            throw new ResponseStatusException(
                    HttpStatus.BAD_REQUEST, "a code of letters and digits, of a whole percent or of an amount in EUR");
        }
        store.make(
                code,
                asked.email,
                new Discount(
                        percent == null ? null : percent.intValueExact(),
                        amount,
                        asked.products == null ? Set.of() : asked.products),
                asked.expires,
                asked.uses);
        return new Made(code);
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
