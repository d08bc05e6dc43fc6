package yoru.server.setup;

import java.time.Instant;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Difference;
import yoru.core.systems.Gap;
import yoru.server.deliveries.DeliveryFigures;
import yoru.server.deliveries.DeliveryState;
import yoru.server.drift.Checks;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector.AddressForm;
import yoru.server.systems.Connectors;
import yoru.server.systems.Listed;
import yoru.server.systems.SystemKind;

/** How all systems are. */
@Service
class Overview {

    /** Which of a connection's settings the browser may see: all that are no secrets. */
    private static final Set<String> SHOWN_SETTINGS =
            Set.of("from", "user", "perSecond", "correct", "proof", Connections.NEXT_END);

    private final Connections connections;
    private final Connectors connectors;
    private final Catalogue catalogue;
    private final DeliveryFigures figures;
    private final Checks checks;
    private final Rulebooks rulebooks;

    Overview(
            Connections connections,
            Connectors connectors,
            Catalogue catalogue,
            DeliveryFigures figures,
            Checks checks,
            Rulebooks rulebooks) {
        this.connections = connections;
        this.connectors = connectors;
        this.catalogue = catalogue;
        this.figures = figures;
        this.checks = checks;
        this.rulebooks = rulebooks;
    }

    /**
     * @param lists how many things of each kind a system lists, by its id
     * @param days how often a system answered in each of the last 24 hours, the last one last, by its id
     */
    record Systems(
            List<SystemShown> systems,
            Map<String, Map<Listed.ItemKind, Integer>> lists,
            Map<String, List<Integer>> days,
            List<KindShown> kinds,
            List<GapShown> gaps) {}

    /** A kind of system that can be added. */
    record KindShown(SystemKind kind, Set<Ability> abilities, AddressForm address) {}

    /** What the mapping asks for and no connected system can do. */
    record GapShown(Ability ability, int targets, String first) {}

    /**
     * A system and how it does.
     *
     * @param reportsTo the path at which it reports to Yoru; none = it reports nothing
     * @param matched whether fields of what it tells can be matched
     * @param state whether it is in use
     * @param secretAt when its secret was set
     */
    record SystemShown(
            String id,
            String title,
            SystemKind kind,
            String address,
            Connection.State state,
            Set<Ability> abilities,
            @Nullable String reportsTo,
            boolean matched,
            boolean hasToken,
            @Nullable Instant secretAt,
            @Nullable Instant formerSecretUntil,
            Map<String, String> settings,
            @Nullable Instant heardAt,
            long refused,
            @Nullable Instant catalogueAt,
            @Nullable String catalogueFault,
            List<Catalogue.Changed> changed,
            long waiting,
            long failing,
            long givenUp,
            @Nullable Instant oldestWaiting,
            DeliveryFigures.Traffic traffic,
            Checks.@Nullable Latest check,
            Map<Difference.Kind, Out> outOfStep) {}

    /** How many differences, for how many people. */
    record Out(int many, int people) {}

    @Transactional(readOnly = true)
    public Systems all() {
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        var all = connections.all();
        var tallies = figures.tally();
        var counts = checks.counts();
        var can =
                all.stream().filter(Connection::isOn).map(connectors::abilities).toList();
        return new Systems(
                all.stream()
                        .map(connection -> shown(connection, tallies, counts))
                        .toList(),
                catalogue.counts(),
                figures.days(all.stream().map(Connection::id).toList()),
                Arrays.stream(SystemKind.values())
                        .map(connectors::of)
                        .map(it -> new KindShown(it.kind(), new TreeSet<>(it.abilities()), it.addressForm()))
                        .toList(),
                Gap.in(rulebook, can).stream().map(gap -> shown(gap, rulebook)).toList());
    }

    private static GapShown shown(Gap gap, Rulebook rulebook) {
        Target first = gap.targets().getFirst();
        return new GapShown(gap.ability(), gap.targets().size(), rulebook.title(first));
    }

    @Transactional(readOnly = true)
    public SystemShown of(Connection connection) {
        return shown(connection, figures.tally(), checks.counts());
    }

    private SystemShown shown(Connection connection, List<DeliveryFigures.Tally> tallies, List<Checks.Count> counts) {
        Map<DeliveryState, DeliveryFigures.Tally> tally = new EnumMap<>(DeliveryState.class);
        tallies.stream()
                .filter(row -> row.connection().equals(connection.id()))
                .forEach(row -> tally.put(row.state(), row));
        Map<Difference.Kind, Out> out = new EnumMap<>(Difference.Kind.class);
        counts.stream()
                .filter(row -> row.connection().equals(connection.id()))
                .forEach(row -> out.put(row.kind(), new Out(row.many(), row.people())));
        var waiting = Optional.ofNullable(tally.get(DeliveryState.WAITING));
        var abilities = connectors.abilities(connection);
        return new SystemShown(
                connection.id(),
                connection.title(),
                connection.kind(),
                connection.address(),
                connection.state(),
                new TreeSet<>(abilities),
                connection.kind().speaksEvents() ? "/hooks/" + connection.id() : null,
                connection.kind().reports(),
                connection.hasToken(),
                connection.secretAt().orElse(null),
                connection.formerSecretUntil().orElse(null),
                shownSettings(connection),
                connection.heardAt().orElse(null),
                connection.refused(),
                connection.catalogueAt().orElse(null),
                connection.catalogueFault().orElse(null),
                catalogue.changed(connection.id()),
                waiting.map(DeliveryFigures.Tally::many).orElse(0L),
                figures.countFailing(connection.id()),
                Optional.ofNullable(tally.get(DeliveryState.GIVEN_UP))
                        .map(DeliveryFigures.Tally::many)
                        .orElse(0L),
                waiting.map(DeliveryFigures.Tally::oldest).orElse(null),
                figures.traffic(connection.id()),
                checks.latest(connection.id()).orElse(null),
                out);
    }

    private Map<String, String> shownSettings(Connection connection) {
        Map<String, String> shown = new TreeMap<>(connections.settings(connection));
        shown.keySet().retainAll(SHOWN_SETTINGS);
        return shown;
    }
}
