package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.ledger.Orders;
import yoru.core.ledger.Warning;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;
import yoru.core.time.SchoolCalendar;

/**
 * Computes access from a ledger and a rulebook. A pure function: the live server, the preview of a change and every
 * question about the past or the future call it, and nothing else decides.
 */
public final class Engine {

    private static final Comparator<String> BY_CODE_POINT = Engine::compareByCodePoint;

    private final Rulebook rulebook;
    private final SchoolCalendar calendar;
    private final Map<String, Product> products = new HashMap<>();
    private final Map<String, List<Link>> linksByProduct = new HashMap<>();

    public Engine(Rulebook rulebook) {
        this.rulebook = rulebook;
        this.calendar = new SchoolCalendar(rulebook.school().zone());
        rulebook.products().forEach(product -> products.put(product.id(), product));
        for (Link link : rulebook.links()) {
            switch (link.from()) {
                case Source.OfProduct from ->
                    linksByProduct
                            .computeIfAbsent(from.product(), product -> new ArrayList<>())
                            .add(link);
            }
        }
    }

    /** Access as known at {@code asOf}: facts with a later time do not count; future starts and ends do. */
    public Evaluation evaluate(Ledger ledger, Instant asOf) {
        return evaluate(Orders.of(ledger.asOf(asOf)), asOf);
    }

    /** The same, over orders that hold no fact later than {@code asOf}. */
    public Evaluation evaluate(Orders orders, Instant asOf) {
        var warnings = new ArrayList<>(orders.warnings());
        Map<String, Map<String, List<Entitlement>>> byPerson = new TreeMap<>(BY_CODE_POINT);
        for (Order order : orders.all()) {
            for (Entitlement entitlement : entitlements(order, warnings)) {
                byPerson.computeIfAbsent(entitlement.person(), person -> new TreeMap<>(BY_CODE_POINT))
                        .computeIfAbsent(entitlement.target().path(), target -> new ArrayList<>())
                        .add(entitlement);
            }
        }
        var access = new ArrayList<Access>();
        for (var targets : byPerson.values()) {
            targets.values().forEach(entitlements -> access.addAll(maximal(entitlements, asOf)));
        }
        return new Evaluation(access, warnings);
    }

    private List<Entitlement> entitlements(Order order, List<Warning> warnings) {
        var given = new ArrayList<Entitlement>();
        for (OrderLine line : order.details().lines()) {
            Product product = products.get(line.product());
            if (product == null) {
                warnings.add(new Warning.NoSuchProduct(order.id(), line.line(), line.product()));
                continue;
            }
            Holding.of(order, line, rulebook.opensOn(product), product.billing())
                    .ifPresent(holding -> {
                        for (Link link : linksByProduct.getOrDefault(product.id(), List.of())) {
                            given.addAll(through(link, holding));
                        }
                    });
        }
        return given;
    }

    private List<Entitlement> through(Link link, Holding holding) {
        var end = end(link.terms(), holding);
        var window = new Window(holding.start(), end.map(Ending::at).orElse(null));
        if (window.isEmpty()) {
            return List.of();
        }
        var reason = new Reason(holding.order(), holding.line(), holding.startedBy(), link, end.orElse(null));
        return link.to().stream()
                .map(target -> new Entitlement(holding.person(), target, window, reason))
                .toList();
    }

    private Optional<Ending> end(Terms terms, Holding holding) {
        Optional<Ending> elapsed = switch (terms.length()) {
            case Length.Held _ -> Optional.empty();
            case Length.Lasting lasting ->
                Optional.of(new Ending.Elapsed(calendar.plus(holding.start(), lasting.period()), lasting.period()));
        };
        return Holding.earlier(holding.end(terms), elapsed);
    }

    private static List<Access> maximal(List<Entitlement> entitlements, Instant asOf) {
        Target target = entitlements.getFirst().target();
        String person = entitlements.getFirst().person();
        var windows = entitlements.stream().map(Entitlement::window).toList();
        return Window.union(windows).stream()
                .map(window -> new Access(
                        person,
                        target,
                        window,
                        stateOf(window, asOf),
                        entitlements.stream()
                                .filter(entitlement ->
                                        window.contains(entitlement.window().start()))
                                .sorted(Comparator.comparing(Entitlement::window, Window.BY_START)
                                        .thenComparing(entitlement ->
                                                entitlement.reason().order().id()))
                                .toList()))
                .toList();
    }

    private static State stateOf(Window window, Instant asOf) {
        if (asOf.isBefore(window.start())) {
            return State.SCHEDULED;
        }
        return window.contains(asOf) ? State.OPEN : State.ENDED;
    }

    /** Not {@link String#compareTo}, which goes by UTF-16 unit and puts U+1F41D before U+FF5E. */
    private static int compareByCodePoint(String a, String b) {
        return Arrays.compare(a.codePoints().toArray(), b.codePoints().toArray());
    }
}
