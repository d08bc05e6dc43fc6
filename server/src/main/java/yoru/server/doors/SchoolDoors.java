package yoru.server.doors;

import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.doors.DoorChange;
import yoru.core.doors.Doors;
import yoru.core.findings.Observed;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Rulebook;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connections;
import yoru.server.systems.Landscapes;

/** The doors of the school with what is sold and connected just now, under any rulebook. */
@Service
public class SchoolDoors {

    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final Landscapes landscapes;
    private final Connections connections;
    private final DoorAddresses addresses;
    private final SchoolSettings settings;
    private final Clock clock;

    SchoolDoors(
            Rulebooks rulebooks,
            Catalogue catalogue,
            Landscapes landscapes,
            Connections connections,
            DoorAddresses addresses,
            SchoolSettings settings,
            Clock clock) {
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
        this.landscapes = landscapes;
        this.connections = connections;
        this.addresses = addresses;
        this.settings = settings;
        this.clock = clock;
    }

    /** Those in force. */
    @Transactional(readOnly = true)
    public Doors now() {
        return under(rulebooks.overTodaysCatalogue().rulebook());
    }

    @Transactional(readOnly = true)
    public Doors under(Rulebook rulebook) {
        return new Doors(rulebook, catalogue.forSale(), landscapes.current(), settings.name(), clock.instant());
    }

    /** What people meet otherwise under another rulebook. */
    @Transactional(readOnly = true)
    public List<DoorChange> changes(Rulebook before, Rulebook after) {
        return DoorChange.between(under(before), before, under(after), after);
    }

    /**
     * Lets nobody be sent to where the school has nothing; what was sent there before stays, and is a finding.
     *
     * @throws UnreadableException naming each door that would
     */
    @Transactional(readOnly = true)
    public void refuseOutside(Rulebook before, Rulebook after) {
        var known = hosts();
        var faults = new ArrayList<Fault>();
        var old = Set.copyOf(before.doors());
        for (int at = 0; at < after.doors().size(); at++) {
            var door = after.doors().get(at);
            if (!old.contains(door)) {
                var place = "doors[" + at + "]";
                door.addresses()
                        .filter(address -> !known.contains(Door.hostOf(address)))
                        .forEach(address -> faults.add(new Fault(
                                place,
                                "leads to " + Door.hostOf(address) + ", where no connected system is; allowed: "
                                        + known.stream().sorted().collect(Collectors.joining(", ")))));
            }
        }
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
    }

    /** Where people are led, and what is there. */
    @Transactional(readOnly = true)
    public Observed.Paths paths() {
        Map<String, Integer> answers =
                addresses.findAll().stream().collect(Collectors.toMap(it -> it.address, it -> it.status));
        return new Observed.Paths(
                catalogue.forSale(),
                catalogue.basketsNoLongerSold(),
                landscapes.current(),
                hosts(),
                answers,
                clock.instant());
    }

    /** Every address that a door in force sends people to. */
    Set<String> addressesInForce() {
        return rulebooks.current().rulebook().doors().stream()
                .flatMap(Door::addresses)
                .collect(Collectors.toSet());
    }

    private Set<String> hosts() {
        var known = new HashSet<>(connections.hosts());
        known.add(Door.hostOf(settings.publicAddress()));
        return known;
    }
}
