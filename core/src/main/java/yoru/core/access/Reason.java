package yoru.core.access;

import java.time.Instant;
import java.util.Optional;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Grant;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;

/** Why a person has an entitlement. */
public sealed interface Reason {

    /** The fact that opened it. */
    Fact startedBy();

    /** The way from what happened over holdings and links, to tell reasons apart that begin with the same fact. */
    String path();

    /** The line or seat that it goes back to, over tags and levels. */
    default Optional<Holding.Bought> bought() {
        return switch (this) {
            case Linked it ->
                switch (it.holding()) {
                    case Holding.Bought bought -> Optional.of(bought);
                    case Holding.Held held ->
                        Optional.ofNullable(held.through())
                                .flatMap(through -> through.reason().bought());
                    case Holding.Subscribed _, Holding.Finished _ -> Optional.empty();
                };
            case ByHand _, FromOutside _, Chosen _ -> Optional.empty();
        };
    }

    /** Through a link, from something that the person holds. */
    record Linked(Link link, Holding holding) implements Reason {
        @Override
        public Fact startedBy() {
            return holding.startedBy();
        }

        @Override
        public String path() {
            return holding.path() + " > " + link.id();
        }
    }

    /** Somebody gave it by hand. */
    record ByHand(Grant grant) implements Reason {
        @Override
        public Fact startedBy() {
            return grant.given();
        }

        @Override
        public String path() {
            return "grant " + grant.details().grant();
        }
    }

    /** A level or a tag that came from outside. */
    record FromOutside(Fact startedBy) implements Reason {
        @Override
        public String path() {
            return "outside";
        }
    }

    /**
     * A place of a level's allowance.
     *
     * @param startedBy the choice
     * @param levelSince when the level began to count
     */
    record Chosen(Level level, Fact startedBy, Instant levelSince) implements Reason {
        @Override
        public String path() {
            return "chosen " + level.id();
        }
    }
}
