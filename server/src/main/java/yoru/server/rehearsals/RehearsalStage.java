package yoru.server.rehearsals;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Engine;
import yoru.core.letters.LetterWording;
import yoru.core.policies.Policies;
import yoru.core.rehearsal.Rehearsal;
import yoru.core.rehearsal.Surroundings;
import yoru.core.rulebook.Rulebook;
import yoru.server.announcements.SchoolLetters;
import yoru.server.platform.SchoolSettings;
import yoru.server.policies.SchoolPolicies;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Landscapes;
import yoru.server.systems.SystemKind;

/** Where stories are tried: the school as it is now, under any rulebook. */
@Service
public class RehearsalStage {

    private final Connections connections;
    private final Landscapes landscapes;
    private final Catalogue catalogue;
    private final SchoolPolicies policies;
    private final SchoolLetters letters;
    private final SchoolSettings settings;

    RehearsalStage(
            Connections connections,
            Landscapes landscapes,
            Catalogue catalogue,
            SchoolPolicies policies,
            SchoolLetters letters,
            SchoolSettings settings) {
        this.connections = connections;
        this.landscapes = landscapes;
        this.catalogue = catalogue;
        this.policies = policies;
        this.letters = letters;
        this.settings = settings;
    }

    /** Tells stories under a rulebook, with what is connected now, what things cost now, and the policies in force. */
    @Transactional(readOnly = true)
    public Rehearsal under(Rulebook rulebook) {
        return under(rulebook, Set.of());
    }

    /** The same, with more systems on than are. */
    @Transactional(readOnly = true)
    Rehearsal under(Rulebook rulebook, Set<String> switchedOn) {
        return new Rehearsal(new Engine(rulebook), around(rulebook, switchedOn));
    }

    private Surroundings around(Rulebook rulebook, Set<String> switchedOn) {
        var currency = rulebook.school().currency().getCurrencyCode();
        Map<String, Catalogue.SoldProduct> sold = new HashMap<>();
        catalogue.products().stream()
                .filter(one -> one.currency().equals(currency))
                .forEach(one -> sold.putIfAbsent(one.id(), one));
        var checkouts = catalogue.checkouts();
        return new Surroundings(
                settings.name(),
                landscapes.current().with(switchedOn),
                connections.all().stream().collect(Collectors.toMap(Connection::id, it -> word(it.kind()))),
                (product, option) -> price(Optional.ofNullable(sold.get(product)), option),
                policies.inForce().guests() == Policies.Guests.HOLD,
                checkouts.isEmpty() || checkouts.stream().anyMatch(Catalogue.Checkout::guests),
                letters.own(LetterWording.Kind.OPENED).orElse(null),
                catalogue.forSale(),
                policies.inForce().ownPage());
    }

    private static String word(SystemKind kind) {
        return kind.name().toLowerCase(Locale.ROOT);
    }

    private static Optional<BigDecimal> price(Optional<Catalogue.SoldProduct> sold, Optional<String> option) {
        return sold.map(one -> option.flatMap(one::priceOf).orElse(one.price()));
    }
}
