package yoru.server.ledger;

import yoru.core.ledger.Fact;

/** Knows which reports only say back what Yoru itself has told a system; they are no facts, and start nothing. */
public interface Echoes {

    boolean isEcho(String connection, Fact fact);
}
