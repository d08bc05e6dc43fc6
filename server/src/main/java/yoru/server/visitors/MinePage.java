package yoru.server.visitors;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.access.Words;
import yoru.core.desk.Act;
import yoru.core.ledger.EmailAddress;
import yoru.server.desk.DeskService;
import yoru.server.gifts.BuyerSeats;
import yoru.server.ledger.Person;
import yoru.server.platform.ProblemException;
import yoru.server.platform.PublicPages;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SecretCode;
import yoru.server.platform.Sha256;

/** All that somebody has, behind a link in their letters; and what they can do with it without an account in Yoru. */
@RestController
class MinePage {

    private static final String UNKNOWN = "mine-unknown.html";
    private static final String NOT_THEIRS = "This order is not one of yours.";
    private static final int LONGEST = 320;

    private final OwnPageLinks links;
    private final OwnThings things;
    private final AddressChange addresses;
    private final Help help;
    private final BuyerSeats seats;
    private final DeskService desk;
    private final PublicPages pages;
    private final SchoolSettings settings;

    MinePage(
            OwnPageLinks links,
            OwnThings things,
            AddressChange addresses,
            Help help,
            BuyerSeats seats,
            DeskService desk,
            PublicPages pages,
            SchoolSettings settings) {
        this.links = links;
        this.things = things;
        this.addresses = addresses;
        this.help = help;
        this.seats = seats;
        this.desk = desk;
        this.pages = pages;
        this.settings = settings;
    }

    @GetMapping(path = "/mine/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> show(@PathVariable String code, HttpServletRequest request) {
        return behind(code, request, person -> page(HttpStatus.OK, code, person, "", ""));
    }

    @PostMapping(
            path = "/mine/{code}/choose",
            consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> choose(
            @PathVariable String code,
            @RequestParam(defaultValue = "") String course,
            @RequestParam(defaultValue = "") String once,
            HttpServletRequest request) {
        return does(
                code,
                request,
                "Chosen. It opens in a moment.",
                known -> act(once, known, new Act.Choose(known.key(), course)));
    }

    @PostMapping(
            path = "/mine/{code}/release",
            consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> release(
            @PathVariable String code,
            @RequestParam(defaultValue = "") String course,
            @RequestParam(defaultValue = "") String once,
            HttpServletRequest request) {
        return does(
                code,
                request,
                "Given back. You can choose another one.",
                known -> act(once, known, new Act.Release(known.key(), course)));
    }

    /** The same form sent twice is done once. */
    private void act(String once, Person person, Act act) {
        desk.visit("mine-" + Sha256.of(once + " " + person.key() + " " + act).substring(0, 40), act, "", person.key());
    }

    @PostMapping(
            path = "/mine/{code}/send",
            consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> send(
            @PathVariable String code,
            @RequestParam(defaultValue = "") String order,
            @RequestParam(defaultValue = "") String line,
            @RequestParam(defaultValue = "0") int seat,
            @RequestParam(defaultValue = "") String address,
            HttpServletRequest request) {
        return does(code, request, "Sent to " + address.strip() + ".", known -> {
            if (!EmailAddress.isOne(address.strip())) {
                throw new ProblemException(
                        HttpStatus.UNPROCESSABLE_CONTENT, "It was not sent", "This is no e-mail address.");
            }
            boolean isTheirs =
                    things.of(known).orders().stream().anyMatch(it -> it.id().equals(order));
            if (!isTheirs) {
                throw ProblemException.notFound(NOT_THEIRS);
            }
            seats.send(order, line, seat, address.strip());
        });
    }

    @PostMapping(
            path = "/mine/{code}/address",
            consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
            produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> address(
            @PathVariable String code, @RequestParam(defaultValue = "") String address, HttpServletRequest request) {
        return does(
                code,
                request,
                "A letter went to both addresses. Follow the link in the one to " + address.strip() + ".",
                known -> addresses.ask(known, address.length() > LONGEST ? "" : address));
    }

    @GetMapping(path = "/mine/{code}/orders/{order}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> order(@PathVariable String code, @PathVariable String order, HttpServletRequest request) {
        return behind(
                code,
                request,
                person -> things.of(person).orders().stream()
                        .filter(it -> it.id().equals(order))
                        .findFirst()
                        .map(it -> pages.page(HttpStatus.OK, "mine-order.html", bill(it, person, code)))
                        .orElseGet(() -> page(HttpStatus.NOT_FOUND, code, person, "", NOT_THEIRS)));
    }

    /** A letter's link alone changes nothing: programs follow links too. */
    @GetMapping(path = "/mine/proof/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> proof(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(
                request,
                () -> help.proved(code),
                address -> confirm(
                        "Is this your address?",
                        "What was bought as a guest with %s opens once you say so.".formatted(address),
                        "It is mine"),
                UNKNOWN);
    }

    @PostMapping(path = "/mine/proof/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> prove(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(
                request,
                () -> help.proved(code),
                address -> help.letIn(address) > 0
                        ? said("It is yours", "It opens for %s now. A letter says when, and where.".formatted(address))
                        : said(
                                "Nothing waits any more",
                                "A letter says what is open, or somebody at the school has seen to it."),
                UNKNOWN);
    }

    @GetMapping(path = "/mine/address/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> newAddress(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(
                request,
                () -> addresses.wanted(code),
                wanted -> confirm(
                        "Is this your address?",
                        "From now on you will be known by %s, and sign in with it. What you have stays as it is."
                                .formatted(wanted.address()),
                        "Yes, change it"),
                UNKNOWN);
    }

    @PostMapping(path = "/mine/address/{code}", produces = MediaType.TEXT_HTML_VALUE)
    ResponseEntity<String> takeNewAddress(@PathVariable String code, HttpServletRequest request) {
        return pages.behind(
                request,
                () -> addresses.wanted(code),
                wanted -> {
                    try {
                        addresses.confirm(code, wanted);
                        return said("It is changed", "You are known by %s now.".formatted(wanted.address()));
                    } catch (ProblemException e) {
                        return said("It was not changed", PublicPages.said(e));
                    }
                },
                UNKNOWN);
    }

    private ResponseEntity<String> behind(
            String code, HttpServletRequest request, Function<Person, ResponseEntity<String>> answer) {
        return pages.behind(request, () -> links.behind(code), answer, UNKNOWN);
    }

    private interface Doing {
        void with(Person person);
    }

    /** Does it for whoever counts, and shows the page as it is then. */
    private ResponseEntity<String> does(String code, HttpServletRequest request, String done, Doing doing) {
        return behind(code, request, known -> {
            try {
                doing.with(things.whoCounts(known));
                return page(HttpStatus.OK, code, known, done, "");
            } catch (ProblemException e) {
                return page(HttpStatus.valueOf(e.problem().getStatus()), code, known, "", PublicPages.said(e));
            }
        });
    }

    private ResponseEntity<String> confirm(String title, String text, String verb) {
        return pages.page(HttpStatus.OK, "confirm.html", Map.of("title", title, "text", text, "verb", verb));
    }

    private ResponseEntity<String> said(String title, String text) {
        return pages.page(HttpStatus.OK, "said.html", Map.of("title", title, "text", text));
    }

    private ResponseEntity<String> page(HttpStatus status, String code, Person known, String done, String problem) {
        var all = things.of(known);
        Map<String, Object> values = new HashMap<>();
        values.put("page", "/mine/" + code);
        values.put("once", SecretCode.make().text());
        values.put("name", called(all.person()));
        values.put("address", all.person().key());
        values.put("done", done);
        values.put("problem", problem);
        values.put("hasThings", !all.things().isEmpty());
        values.put("things", all.things().stream().map(MinePage::thing).toList());
        values.put("levels", all.levels().stream().map(MinePage::level).toList());
        values.put("mayChoose", !all.choosable().isEmpty());
        values.put("choosable", all.choosable().stream().map(MinePage::course).toList());
        values.put(
                "seats",
                all.orders().stream()
                        .filter(OwnThings.Bought::givesSeats)
                        .flatMap(order -> seats.of(order.id()).stream())
                        .map(MinePage::seats)
                        .toList());
        values.put("hasOrders", !all.orders().isEmpty());
        values.put("orders", all.orders().stream().map(this::order).toList());
        return pages.page(status, "mine.html", values);
    }

    private static String called(Person person) {
        return person.givenName().isPresent() ? person.name() + " · " : "";
    }

    static Map<String, ?> thing(OwnThings.Thing thing) {
        return Map.of(
                "what", thing.title(),
                "howLong", thing.howLong(),
                "isHere", thing.isHere(),
                "where", thing.where(),
                "verb", thing.verb());
    }

    private static Map<String, ?> level(OwnThings.Level level) {
        var premium = level.premiumLeft();
        return Map.of(
                "what",
                level.title(),
                "chosen",
                level.chosen(),
                "courses",
                level.courses(),
                "premium",
                premium == null ? "" : premium == 1 ? "1 premium place left" : premium + " premium places left",
                "taken",
                level.taken().stream().map(MinePage::course).toList());
    }

    private static Map<String, ?> course(OwnThings.Course course) {
        return Map.of("id", course.id(), "what", course.title());
    }

    private static Map<String, ?> seats(BuyerSeats.Seats seats) {
        return Map.of(
                "order",
                seats.order(),
                "free",
                seats.seats().stream()
                        .filter(BuyerSeats.Seat::free)
                        .map(seat -> Map.of(
                                "what",
                                seat.title(),
                                "line",
                                seat.line(),
                                "number",
                                seat.number(),
                                "sentTo",
                                Objects.requireNonNullElse(seat.sentTo(), "")))
                        .toList());
    }

    private Map<String, ?> order(OwnThings.Bought order) {
        return Map.of(
                "id", order.id(),
                "day", day(order.placed()),
                "state", order.state(),
                "total", order.total(),
                "invoice", Objects.requireNonNullElse(order.invoice(), ""));
    }

    private Map<String, ?> bill(OwnThings.Bought order, Person person, String code) {
        Map<String, Object> values = new HashMap<>(order(order));
        values.put("page", "/mine/" + code);
        values.put("name", called(person));
        values.put("address", person.key());
        values.put(
                "lines",
                order.lines().stream()
                        .map(line -> Map.of(
                                "what",
                                line.title(),
                                "amount",
                                line.amount(),
                                "several",
                                line.quantity() > 1 ? String.valueOf(line.quantity()) : ""))
                        .toList());
        return values;
    }

    private String day(Instant at) {
        return new Words(settings.zone()).day(at);
    }
}
