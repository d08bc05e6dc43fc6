package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import yoru.core.ledger.ByCodePoint;
import yoru.core.ledger.Fact;

/** Joins the entitlements of one person to one target to the windows that they make up together. */
final class Maximal {

    private static final Comparator<Entitlement> BY_START = Comparator.<Entitlement, Window>comparing(
                    it -> it.stretch().span(), Window.BY_START)
            .thenComparing(it -> it.reason().startedBy(), Fact.FOLDING_ORDER)
            .thenComparing(it -> it.reason().path(), ByCodePoint.ORDER);

    /** A window of one entitlement. */
    private record Piece(Window window, Entitlement of) {}

    private final List<Entitlement> all;
    private final Instant asOf;
    private final boolean openNow;

    private Maximal(List<Entitlement> all, Instant asOf) {
        this.all = all.size() == 1 ? all : all.stream().sorted(BY_START).toList();
        this.asOf = asOf;
        this.openNow = all.stream().anyMatch(it -> it.stretch().open().contains(asOf));
    }

    /** The windows in time order, as they stand at {@code asOf}. */
    static List<Access> of(List<Entitlement> entitlements, Instant asOf) {
        return new Maximal(entitlements, asOf).windows();
    }

    private List<Access> windows() {
        var pieces = new ArrayList<Piece>(all.size());
        for (Entitlement entitlement : all) {
            entitlement.stretch().open().asList().forEach(window -> pieces.add(new Piece(window, entitlement)));
        }
        if (all.size() > 1) {
            pieces.sort(Comparator.comparing(Piece::window, Window.BY_START));
        }
        var maximal = Windows.of(pieces.stream().map(Piece::window).toList()).asList();
        var found = new ArrayList<Access>(maximal.size());
        int next = 0;
        for (int at = 0; at < maximal.size(); at++) {
            var window = maximal.get(at);
            var inIt = new IdentityHashMap<Entitlement, Boolean>();
            while (next < pieces.size()
                    && window.contains(pieces.get(next).window.start())) {
                inIt.put(pieces.get(next).of, true);
                next++;
            }
            boolean last =
                    at + 1 == maximal.size() || maximal.get(at + 1).start().isAfter(asOf);
            found.add(new Access(
                    all.getFirst().person(),
                    all.getFirst().target(),
                    window,
                    state(window, last),
                    ordered(inIt.keySet())));
        }
        return found;
    }

    private List<Entitlement> ordered(Collection<Entitlement> some) {
        return some.size() < 2
                ? List.copyOf(some)
                : some.stream().sorted(BY_START).toList();
    }

    /** @param last whether no other window begins after it and not after the as-of time */
    private State state(Window window, boolean last) {
        if (window.start().isAfter(asOf)) {
            return State.SCHEDULED;
        }
        if (window.contains(asOf)) {
            boolean paidFor = all.stream()
                    .map(Entitlement::stretch)
                    .anyMatch(it -> it.open().contains(asOf) && !it.grace().contains(asOf));
            return paidFor ? State.OPEN : State.GRACE;
        }
        boolean suspended =
                last && !openNow && all.stream().anyMatch(it -> it.stretch().isSuspendedAt(asOf));
        return suspended ? State.SUSPENDED : State.ENDED;
    }
}
