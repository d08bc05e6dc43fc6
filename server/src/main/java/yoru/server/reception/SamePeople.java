package yoru.server.reception;

import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.core.policies.Policies;
import yoru.core.policies.Policies.Introduction;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Origin;
import yoru.server.policies.SchoolPolicies;

/** Keys under which a system knows somebody whose address it has verified, and who is known by that address too. */
@Service
class SamePeople {

    /** Who is said to have done what nobody did. */
    private static final String BY_POLICY = "policy";

    private static final String SOURCE = "/policies";

    private final LedgerReader ledger;
    private final FactKeeper keeper;
    private final SchoolPolicies policies;
    private final Clock clock;

    SamePeople(LedgerReader ledger, FactKeeper keeper, SchoolPolicies policies, Clock clock) {
        this.ledger = ledger;
        this.keeper = keeper;
        this.policies = policies;
        this.clock = clock;
    }

    /** Two keys of one person, as a system says. */
    record Pair(String subject, String address) {}

    /** Those who could be joined; whoever was joined or parted before is not among them. */
    @Transactional(readOnly = true)
    public List<Pair> notJoined() {
        return ledger.verified().stream()
                .flatMap(one -> pair(one).stream())
                .filter(pair -> ledger.isKnown(pair.address))
                .distinct()
                .toList();
    }

    private static Optional<Pair> pair(LedgerReader.Verified one) {
        return new Introduction(false, Optional.of(one.address()))
                .sameAs(one.subject())
                .map(address -> new Pair(one.subject(), address));
    }

    /** Joins somebody as the policy in force says; where it no longer does, nothing is done. */
    @Transactional
    public void joinByPolicy(String subject) {
        if (policies.inForce().joining() == Policies.Joining.SAME_VERIFIED_ADDRESS) {
            keeper.holdBackAll();
            join(ledger.verified(subject), new Origin.OfYoru(BY_POLICY));
        }
    }

    /** Joins all of them who are there now. @return how many they were */
    @Transactional
    public int joinAll(String operator) {
        keeper.holdBackAll();
        return join(
                ledger.verified().stream()
                        .filter(one -> pair(one)
                                .filter(pair -> ledger.isKnown(pair.address))
                                .isPresent())
                        .toList(),
                new Origin.OfOperator(operator));
    }

    /** Joins each subject with the person of the address that was verified last. */
    private int join(List<LedgerReader.Verified> verified, Origin origin) {
        Map<String, Pair> last = new LinkedHashMap<>();
        verified.forEach(one -> pair(one).ifPresent(pair -> last.put(pair.subject, pair)));
        last.values()
                .forEach(pair -> keeper.keep(
                        origin,
                        new Fact(
                                new FactId(SOURCE, "verified " + pair.subject + " " + pair.address),
                                pair.subject,
                                clock.instant(),
                                new Happening.PersonMerged(pair.address))));
        return last.size();
    }
}
