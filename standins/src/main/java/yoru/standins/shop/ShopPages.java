package yoru.standins.shop;

import jakarta.servlet.http.HttpServletResponse;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.CookieValue;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import yoru.standins.practice.Cookies;
import yoru.standins.practice.Outbox;

/** The shop's pages. */
@Controller
@Profile("shop")
class ShopPages {

    private static final String BASKET = "practice-basket";
    private static final String CODE = "practice-code";
    private static final String BUYER = "practice-buyer";
    private static final Set<String> LEVELS = Set.of("FORAGER", "KEEPER", "WARDEN");
    private static final int MOST_OF_ONE = 99;

    private final Store store;
    private final Till till;
    private final Plans plans;
    private final Methods methods;
    private final Outbox outbox;
    private final AfterBuying after;
    private final ShopSettings settings;
    private final BCryptPasswordEncoder passwords = new BCryptPasswordEncoder(6);

    ShopPages(
            Store store,
            Till till,
            Plans plans,
            Methods methods,
            Outbox outbox,
            AfterBuying after,
            ShopSettings settings) {
        this.after = after;
        this.methods = methods;
        this.plans = plans;
        this.store = store;
        this.till = till;
        this.outbox = outbox;
        this.settings = settings;
    }

    record Shelf(String category, List<Product> products) {}

    @ModelAttribute
    void common(Model model, @CookieValue(name = BASKET, defaultValue = "") String basket) {
        model.addAttribute("shopName", "Hollow Oak practice shop");
        model.addAttribute("classroom", settings.classroom());
        model.addAttribute(
                "inBasket",
                basket(basket).values().stream().mapToInt(Integer::intValue).sum());
        model.addAttribute("guestsAllowed", store.setting("guests"));
        model.addAttribute("passwordsAsked", store.setting("passwords"));
    }

    @GetMapping("/")
    String home(Model model) {
        Map<String, List<Product>> shelves = store.products().stream()
                .collect(Collectors.groupingBy(Product::category, LinkedHashMap::new, Collectors.toList()));
        model.addAttribute(
                "shelves",
                shelves.entrySet().stream()
                        .map(entry -> new Shelf(entry.getKey(), entry.getValue()))
                        .toList());
        return "shop/home";
    }

    /** Also the link to paste elsewhere that puts a product into the basket. */
    @GetMapping("/basket/add")
    String add(
            @RequestParam String product,
            @CookieValue(name = BASKET, defaultValue = "") String cookie,
            HttpServletResponse response) {
        var basket = basket(cookie);
        till.lines(Map.of(product, 1), Optional.empty(), null)
                .forEach(line -> basket.merge(line.key(), 1, Integer::sum));
        Cookies.keep(BASKET, written(basket), response);
        return "redirect:/basket";
    }

    @GetMapping("/basket")
    String basket(
            Model model,
            @CookieValue(name = BASKET, defaultValue = "") String cookie,
            @CookieValue(name = CODE, defaultValue = "") String code) {
        var discount = store.discount(code);
        var lines = till.lines(basket(cookie), discount, null);
        model.addAttribute("lines", lines);
        model.addAttribute("empty", lines.isEmpty());
        model.addAttribute("total", total(lines));
        model.addAttribute("code", code);
        model.addAttribute("unknownCode", !code.isEmpty() && discount.isEmpty());
        discount.ifPresent(it -> model.addAttribute("off", it.shown()));
        return "shop/basket";
    }

    @PostMapping("/basket")
    String change(
            @RequestParam Map<String, String> form,
            @CookieValue(name = BASKET, defaultValue = "") String cookie,
            HttpServletResponse response) {
        var basket = basket(cookie);
        basket.replaceAll((product, quantity) -> quantity(form.getOrDefault("quantity-" + product, "0")));
        basket.values().removeIf(quantity -> quantity < 1);
        Cookies.keep(BASKET, written(basket), response);
        Cookies.keep(
                CODE,
                form.getOrDefault("code", "").strip().toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9-]", ""),
                response);
        return "redirect:" + ("checkout".equals(form.get("go")) ? "/checkout" : "/basket");
    }

    @GetMapping("/checkout")
    String checkout(
            Model model,
            @CookieValue(name = BASKET, defaultValue = "") String cookie,
            @CookieValue(name = CODE, defaultValue = "") String code) {
        var lines = till.lines(basket(cookie), store.discount(code), null);
        if (lines.isEmpty()) {
            return "redirect:/basket";
        }
        model.addAttribute("lines", lines);
        model.addAttribute("total", total(lines));
        model.addAttribute(
                "costsSomething", lines.stream().anyMatch(line -> line.amount().signum() > 0));
        return "shop/checkout";
    }

    @PostMapping("/checkout")
    String buy(
            @RequestParam Map<String, String> form,
            Model model,
            HttpServletResponse response,
            @CookieValue(name = BASKET, defaultValue = "") String cookie,
            @CookieValue(name = CODE, defaultValue = "") String code) {
        var giftTo = form.getOrDefault("giftTo", "").strip().toLowerCase(Locale.ROOT);
        var lines = till.lines(basket(cookie), store.discount(code), giftTo.isEmpty() ? null : giftTo);
        if (lines.isEmpty()) {
            return "redirect:/basket";
        }
        var faults = new ArrayList<String>();
        var buyer = buyer(form, faults);
        if (buyer.isEmpty()) {
            model.addAttribute("faults", faults);
            model.addAttribute("email", form.getOrDefault("email", ""));
            model.addAttribute("name", form.getOrDefault("name", ""));
            model.addAttribute("giftTo", giftTo);
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return checkout(model, cookie, code);
        }
        var order = till.buy(buyer.get(), lines, !"later".equals(form.get("payment")));
        Cookies.keep(BASKET, "", response);
        store.useUp(code);
        Cookies.keep(CODE, "", response);
        Cookies.keep(BUYER, order.guest() ? "" : order.email(), response);
        return "redirect:" + after.sendsTo(order).orElse("/orders/" + order.id());
    }

    @GetMapping("/orders/{id}")
    String order(@PathVariable String id, Model model) {
        var order = orderOr404(id);
        model.addAttribute("order", order);
        model.addAttribute("notes", after.notes(order));
        model.addAttribute("page", after.page(order).orElse(null));
        model.addAttribute("subscriptions", plans.of(id));
        model.addAttribute("parts", plans.partsOf(order));
        return "shop/order";
    }

    /** One's own orders; to practise, an address is enough. */
    @GetMapping("/account")
    String account(Model model, @CookieValue(name = BUYER, defaultValue = "") String cookie) {
        var buyer = Cookies.read(cookie);
        if (!buyer.isEmpty()) {
            var orders = store.ordersOf(buyer);
            model.addAttribute("buyer", buyer);
            model.addAttribute("orders", orders);
            model.addAttribute("courses", store.toChoose(buyer));
            model.addAttribute(
                    "isMember",
                    orders.stream()
                            .flatMap(order -> order.lines().stream())
                            .anyMatch(line -> LEVELS.contains(line.product())));
        }
        return "shop/account";
    }

    @PostMapping("/account")
    String signIn(@RequestParam String email, Model model, HttpServletResponse response) {
        var buyer = email.strip().toLowerCase(Locale.ROOT);
        if (store.ordersOf(buyer).isEmpty()) {
            model.addAttribute("unknown", buyer);
            return "shop/account";
        }
        Cookies.keep(BUYER, buyer, response);
        return "redirect:/account";
    }

    @PostMapping("/account/leave")
    String leave(HttpServletResponse response) {
        Cookies.keep(BUYER, "", response);
        return "redirect:/account";
    }

    @PostMapping("/account/courses/{course}")
    String choose(
            @PathVariable String course,
            @RequestParam boolean chosen,
            @CookieValue(name = BUYER, defaultValue = "") String cookie) {
        if (!cookie.isEmpty()) {
            till.choose(Cookies.read(cookie), course, chosen);
        }
        return "redirect:/account";
    }

    /** Puts something new on the shelves, with its plan and its options. */
    @PostMapping("/keeper/products")
    String add(@RequestParam Map<String, String> form, Model model, HttpServletResponse response) {
        try {
            if (store.add(NewProduct.read(form))) {
                return "redirect:/keeper";
            }
            model.addAttribute("productFault", "There is a product with this code already.");
        } catch (IllegalArgumentException e) {
            model.addAttribute("productFault", e.getMessage());
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return keeper(model);
    }

    @PostMapping("/keeper/products/{id}/off")
    String takeOff(@PathVariable String id) {
        store.takeOff(id);
        return "redirect:/keeper";
    }

    @PostMapping("/keeper/orders/{id}/give-back")
    String giveBack(@PathVariable String id, @RequestParam BigDecimal amount) {
        var order = orderOr404(id);
        if (amount.signum() > 0) {
            till.giveBack(order, amount.setScale(2, RoundingMode.DOWN));
        }
        return "redirect:/orders/" + id;
    }

    @GetMapping("/keeper")
    String keeper(Model model) {
        model.addAttribute("orders", store.latestOrders());
        model.addAttribute("products", store.products());
        model.addAttribute("charges", methods.latest());
        model.addAttribute("outbox", outbox.progress());
        model.addAttribute("reportTo", settings.reportTo());
        return "shop/keeper";
    }

    /** The same product under another name. */
    @PostMapping("/keeper/products/{id}")
    String rename(@PathVariable String id, @RequestParam String title) {
        if (!title.isBlank()) {
            store.rename(id, title.strip());
        }
        return "redirect:/keeper";
    }

    @PostMapping("/keeper/guests")
    String guests(@RequestParam boolean allowed) {
        store.set("guests", allowed);
        return "redirect:/keeper";
    }

    @PostMapping("/keeper/passwords")
    String passwords(@RequestParam boolean asked) {
        store.set("passwords", asked);
        return "redirect:/keeper";
    }

    @PostMapping("/keeper/orders/{id}/{act}")
    String act(@PathVariable String id, @PathVariable String act, @RequestParam(defaultValue = "") String line) {
        var order = orderOr404(id);
        switch (act) {
            case "pay" -> till.pay(order);
            case "fulfil" -> till.fulfil(order);
            case "refund" -> till.refund(order);
            case "refund-line" -> till.refundLine(order, line);
            case "part-paid" -> plans.part(order, line, true);
            case "part-failed" -> plans.part(order, line, false);
            default -> throw new ResponseStatusException(HttpStatus.NOT_FOUND);
        }
        return "redirect:/orders/" + id;
    }

    @PostMapping("/keeper/subscriptions/{id}/{act:renew|fail|end-later|end-now|refund}")
    String subscription(@PathVariable String id, @PathVariable String act) {
        if (!plans.act(id, act)) {
            throw new ResponseStatusException(HttpStatus.NOT_FOUND);
        }
        return "redirect:/orders/" + id.substring(0, id.lastIndexOf('-'));
    }

    /** Whether what somebody left on file can be charged. */
    @PostMapping("/keeper/methods")
    String method(@RequestParam String email, @RequestParam boolean works) {
        methods.set(email.strip().toLowerCase(Locale.ROOT), works);
        return "redirect:/keeper";
    }

    /** An order of the past; times are UTC. */
    @PostMapping("/keeper/past")
    String past(
            @RequestParam String email,
            @RequestParam String name,
            @RequestParam String product,
            @RequestParam LocalDateTime placed,
            @RequestParam(defaultValue = "") String paidThrough) {
        var known = store.product(product).orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND));
        var address = email.strip().toLowerCase(Locale.ROOT);
        var buyer = new Till.Buyer(address, name.strip(), false);
        store.makeAccount(address, buyer.name(), "");
        try {
            var end = paidThrough.isEmpty()
                    ? null
                    : LocalDateTime.parse(paidThrough).toInstant(ZoneOffset.UTC);
            var order = till.buyInThePast(buyer, known.id(), placed.toInstant(ZoneOffset.UTC), end);
            return "redirect:/orders/" + order.id();
        } catch (DateTimeParseException e) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "Paid through: no such time.", e);
        }
    }

    private Optional<Till.Buyer> buyer(Map<String, String> form, List<String> faults) {
        var email = form.getOrDefault("email", "").strip().toLowerCase(Locale.ROOT);
        var name = form.getOrDefault("name", "").strip();
        var password = form.getOrDefault("password", "");
        if (!email.matches("[^@\\s]+@[^@\\s]+\\.[^@\\s]+")) {
            faults.add("Please give an e-mail address.");
            return Optional.empty();
        }
        switch (form.getOrDefault("who", "new")) {
            case "known" -> {
                var known = store.passwordHash(email).filter(hash -> passwords.matches(password, hash));
                if (known.isPresent()) {
                    return Optional.of(new Till.Buyer(email, store.accountName(email), false));
                }
                faults.add("No account has this address and password.");
            }
            case "guest" -> {
                if (store.setting("guests") && !name.isEmpty()) {
                    return Optional.of(new Till.Buyer(email, name, true));
                }
                faults.add(name.isEmpty() ? "Please give your name." : "Guests cannot buy at the moment.");
            }
            default -> {
                var asked = store.setting("passwords");
                var chosen = asked ? password : UUID.randomUUID().toString();
                if (name.isEmpty() || chosen.length() < 6) {
                    faults.add("Please give your name and a password of at least six characters.");
                } else if (!store.makeAccount(email, name, String.valueOf(passwords.encode(chosen)))) {
                    faults.add("There is an account with this address already. Please sign in with it.");
                } else {
                    return Optional.of(new Till.Buyer(email, name, false));
                }
            }
        }
        return Optional.empty();
    }

    private ShopOrder orderOr404(String id) {
        return store.order(id).orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "no such order"));
    }

    private static String total(List<ShopOrder.Line> lines) {
        return "€"
                + lines.stream()
                        .map(ShopOrder.Line::amount)
                        .reduce(BigDecimal.ZERO, BigDecimal::add)
                        .toPlainString();
    }

    private static int quantity(String text) {
        return text.matches("\\d{1,4}") ? Math.min(Integer.parseInt(text), MOST_OF_ONE) : 1;
    }

    /** The basket lives in a cookie ("FIRST.1_QUEEN-LIVE.2"), so that it outlives the shop's restart. */
    private static Map<String, Integer> basket(String cookie) {
        Map<String, Integer> basket = new LinkedHashMap<>();
        for (String part : Cookies.read(cookie).split("_", -1)) {
            int dot = part.lastIndexOf('.');
            if (dot > 0) {
                basket.put(part.substring(0, dot), quantity(part.substring(dot + 1)));
            }
        }
        return basket;
    }

    private static String written(Map<String, Integer> basket) {
        return basket.entrySet().stream()
                .map(entry -> entry.getKey() + "." + entry.getValue())
                .collect(Collectors.joining("_"));
    }
}
