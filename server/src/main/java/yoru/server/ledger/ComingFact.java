package yoru.server.ledger;

import java.util.List;
import java.util.Optional;
import tools.jackson.databind.JsonNode;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/** A fact that comes, with the event that says it. */
record ComingFact(Origin origin, JsonNode event, Fact fact) {

    ComingFact {
        if (fact.happening() instanceof Happening.PersonErased && !(origin instanceof Origin.OfOperator)) {
            throw new UnreadableException(List.of(new Fault("type", "is only said at the desk")));
        }
    }

    /** Whether what becomes of it can be another thing after what was said just before it. */
    boolean countsOnThoseBefore() {
        return switch (fact.happening()) {
            case Happening.OfTag _, Happening.OfList _, Happening.OfPerson _ -> true;
            case Happening.OfOrder _,
                    Happening.OfSubscription _,
                    Happening.OfGrant _,
                    Happening.OfLevel _,
                    Happening.OfCourse _,
                    Happening.AccountMade _,
                    Happening.OfFollowup _,
                    Happening.Unknown _ -> false;
        };
    }

    Optional<String> thing() {
        return fact.happening().thing();
    }
}
