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
    /** Carries letters to people, over SMTP. */
    MAILBOX,
    /** Is told what Yoru did and learnt, as signed events. */
    LISTENER,
    /** A folder of CSV files, for a system that has no interface. */
    FOLDER
}
