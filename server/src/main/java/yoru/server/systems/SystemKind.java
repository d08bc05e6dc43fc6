package yoru.server.systems;

/** What a connected system is; for each there is one connector. */
public enum SystemKind {
    /** Sells, and reports what happened. */
    SHOP,
    /** Teaches, and is told who may enter. */
    CLASSROOM,
    /** Where people meet: groups and areas, over SCIM 2.0. */
    COMMUNITY,
    /** Keeps tags, lists and fields of people. */
    CONTACTS,
    /** Carries letters to people, over SMTP, and may report who leaves a list. */
    MAILBOX,
    /** Is told what Yoru did and learnt, as signed events. */
    LISTENER,
    /** A folder of CSV files both ways, for a system that has no interface. */
    FOLDER;

    /** Whether systems of the kind report to Yoru what happens there. */
    public boolean reports() {
        return switch (this) {
            case SHOP, CONTACTS, MAILBOX, FOLDER -> true;
            case CLASSROOM, COMMUNITY, LISTENER -> false;
        };
    }

    /** Whether its reports are CloudEvents as Yoru's own, unless its fields are matched. */
    public boolean speaksEvents() {
        return this == SHOP || this == CONTACTS || this == MAILBOX;
    }

    /** Whether reports from there, or events to there, are signed. */
    public boolean signs() {
        return speaksEvents() || this == LISTENER;
    }
}
