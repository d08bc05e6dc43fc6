package yoru.core.story;

import yoru.core.desk.Act;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;

/** Something that is done in a story. */
public sealed interface Deed {

    /** A report comes in, with an id and a time of its own. */
    record Reported(Fact fact) implements Deed {}

    /** Something happens to somebody. */
    record Happens(String person, Happening happening) implements Deed {}

    /**
     * Somebody does something at the desk.
     *
     * @param key tells this from all other acts
     */
    record Acts(Act act, String key) implements Deed {}
}
