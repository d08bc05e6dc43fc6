package yoru.formats;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import yoru.core.doors.Offer;
import yoru.core.rehearsal.Surroundings;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Thing;
import yoru.core.systems.Ability;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;

/** What is connected, as a document, {@code yoru: systems/1}: for whoever tries something out without a server. */
public final class SystemsDocument {

    private static final String SCHOOL = "The school";

    /** The kinds of systems and what each can do, as the connectors say it of themselves. */
    public static final Map<String, Set<Ability>> KINDS = kinds();

    private SystemsDocument() {}

    private static Map<String, Set<Ability>> kinds() {
        Map<String, Set<Ability>> kinds = new LinkedHashMap<>();
        kinds.put("shop", EnumSet.of(Ability.CATALOGUE, Ability.CHARGING, Ability.CODES, Ability.AFTER));
        kinds.put(
                "classroom",
                EnumSet.of(
                        Ability.ENROLMENT,
                        Ability.SECTIONS,
                        Ability.DOWNLOADS,
                        Ability.CATALOGUE,
                        Ability.LISTING,
                        Ability.DOORS));
        kinds.put(
                "community",
                EnumSet.of(Ability.ACCOUNTS, Ability.GROUPS, Ability.AREAS, Ability.CATALOGUE, Ability.LISTING));
        kinds.put(
                "contacts",
                EnumSet.of(
                        Ability.ACCOUNTS,
                        Ability.TAGS,
                        Ability.LISTS,
                        Ability.FIELDS,
                        Ability.CATALOGUE,
                        Ability.LISTING));
        kinds.put("mailbox", EnumSet.of(Ability.MESSAGES));
        kinds.put("listener", EnumSet.of(Ability.EVENTS));
        kinds.put(
                "folder",
                EnumSet.of(
                        Ability.ACCOUNTS,
                        Ability.ENROLMENT,
                        Ability.SECTIONS,
                        Ability.GROUPS,
                        Ability.AREAS,
                        Ability.DOWNLOADS,
                        Ability.LISTS,
                        Ability.TAGS));
        return kinds;
    }

    /** One system of each kind, called so, that lists everything. */
    public static Surroundings oneOfEach(Rulebook rulebook) {
        var systems = KINDS.keySet().stream()
                .map(kind ->
                        new ConnectedSystem(kind, kind, true, abilities(kind), everything(rulebook, kind), null, null))
                .toList();
        return new Surroundings(SCHOOL, new Landscape(systems));
    }

    /**
     * @param rulebook beside which they are
     * @throws UnreadableException naming the place of every fault
     */
    public static Surroundings read(String document, Rulebook rulebook) {
        var node = DocumentText.read(document);
        var faults = new ArrayList<>(DocumentSchema.SYSTEMS.faults(node));
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        var fields = new Fields(node, "", faults);
        Map<List<String>, BigDecimal> prices = new HashMap<>();
        var systems = fields.objects("systems", system -> system(system, rulebook, prices));
        var kinds = fields.objects("systems", it -> it).stream()
                .collect(Collectors.toMap(it -> it.text("id"), it -> it.text("kind"), (one, other) -> one));
        boolean noGuests = fields.objects("systems", it -> it).stream()
                .anyMatch(it -> it.has("checkout")
                        && it.object("checkout").has("guests")
                        && !it.object("checkout").flag("guests"));
        boolean held = fields.has("policies")
                && "hold".equals(fields.object("policies").optionalText("guests"));
        if (systems.stream().map(ConnectedSystem::id).distinct().count() < systems.size()) {
            fields.fault("systems", "two of them have the same id");
        }
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        return new Surroundings(
                Objects.requireNonNullElse(fields.optionalText("school"), SCHOOL),
                new Landscape(systems),
                kinds,
                (product, option) -> option.flatMap(it -> Optional.ofNullable(prices.get(List.of(product, it))))
                        .or(() -> Optional.ofNullable(prices.get(List.of(product)))),
                held,
                !noGuests,
                null,
                offers(prices, rulebook),
                false);
    }

    /** What is sold, as far as it is described; where it is put into a basket is not said. */
    private static List<Offer> offers(Map<List<String>, BigDecimal> prices, Rulebook rulebook) {
        return prices.entrySet().stream()
                .flatMap(entry -> rulebook.product(entry.getKey().getFirst()).stream()
                        .map(product -> new Offer(
                                product.id(),
                                entry.getKey().size() > 1 ? entry.getKey().getLast() : null,
                                rulebook.title(
                                        entry.getKey().size() > 1
                                                ? new Source.OfOption(
                                                        entry.getKey().getLast())
                                                : new Source.OfProduct(product.id())),
                                entry.getValue(),
                                rulebook.school().currency(),
                                "")))
                .toList();
    }

    private static ConnectedSystem system(Fields system, Rulebook rulebook, Map<List<String>, BigDecimal> prices) {
        var id = system.text("id");
        var kind = system.text("kind");
        system.objects("sells", sold -> sold).forEach(sold -> {
            var product = sold.text("product");
            var option = sold.optionalText("option");
            var known = rulebook.product(product);
            if (known.isEmpty()) {
                sold.fault("product", "there is no product `" + product + "`");
            } else if (option != null && !known.get().hasOption(option)) {
                sold.fault("option", "there is no option `" + option + "` of " + product);
            }
            prices.put(option == null ? List.of(product) : List.of(product, option), sold.amount("price"));
        });
        return new ConnectedSystem(
                id,
                Objects.requireNonNullElse(system.optionalText("title"), id),
                !system.has("on") || system.flag("on"),
                abilities(kind),
                system.has("lists") ? lists(system.object("lists"), rulebook) : everything(rulebook, kind),
                system.optionalText("page"),
                system.optionalText("nextEnd"));
    }

    private static Set<Ability> abilities(String kind) {
        return Objects.requireNonNull(KINDS.get(kind));
    }

    private static Map<Target, String> lists(Fields lists, Rulebook rulebook) {
        Map<Target, String> listed = new HashMap<>();
        for (Sort sort : Sort.values()) {
            var known = rulebook.all(sort).stream().map(Thing::id).toList();
            var ids = lists.texts(sort.many());
            for (int at = 0; at < ids.size(); at++) {
                var id = ids.get(at);
                if (!known.contains(id)) {
                    lists.fault(
                            sort.many() + "[" + at + "]",
                            "there is no " + sort.one() + " `" + id + "`" + Nearest.to(id, known));
                }
                sort.target(id).ifPresent(target -> listed.put(target, ""));
            }
        }
        return listed;
    }

    private static Map<Target, String> everything(Rulebook rulebook, String kind) {
        Map<Target, String> listed = new HashMap<>();
        for (Sort sort : Sort.values()) {
            for (Thing thing : rulebook.all(sort)) {
                sort.target(thing.id())
                        .filter(target -> Ability.neededFor(target)
                                .filter(abilities(kind)::contains)
                                .isPresent())
                        .ifPresent(target -> listed.put(target, ""));
            }
        }
        return listed;
    }
}
