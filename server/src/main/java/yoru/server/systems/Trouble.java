package yoru.server.systems;

/** What stands between Yoru and a system, and what somebody can do about it. */
public enum Trouble {
    AWAY(
            true,
            "See whether the system runs and whether its address is right. Nothing is lost: it is told once it is back."),
    CUT_OFF(
            true,
            "The connection broke off before the system answered. It is tried again; nothing is lost, and nothing is done twice."),
    SLOW(true, "The system may be under load. It is tried again; nothing is lost."),
    BUSY(true, "The system asked for patience. Lower the requests per second if it happens often."),
    BROKEN(true, "The system reports a fault of its own; whoever runs it should look at its log. It is tried again."),
    NOT_LET_IN(true, "The system does not accept the token. Enter the current one under Systems."),
    SENT_ELSEWHERE(true, "The address leads elsewhere. Enter the address where it leads to, if it is the right one."),
    UNREADABLE(true, "See whether the address is that of the interface and not of a page for people."),
    REFUSED(false, "The system does not take this one thing. What it said tells why; repeat it once that is mended."),
    STRANGER(
            false,
            "The person is no contact there, and by policy contacts are not made by themselves. Make the contact, on the person's page or there."),
    NOT_ALLOWED(true, "The address is inside Yoru's own network, and the configuration does not allow it."),
    NOT_CONFIRMED(false, "The system answered, but not that it was done. It is tried again.");

    private final boolean ofTheSystem;
    private final String advice;

    Trouble(boolean ofTheSystem, String advice) {
        this.ofTheSystem = ofTheSystem;
        this.advice = advice;
    }

    /** Whether it is likely to meet everything that the system is told, not this one thing. */
    public boolean isOfTheSystem() {
        return ofTheSystem;
    }

    /** Whether what was asked can still take effect, although nobody says so. */
    public boolean mayStillTakeEffect() {
        return switch (this) {
            case CUT_OFF, SLOW, BROKEN, UNREADABLE, NOT_CONFIRMED -> true;
            case AWAY, BUSY, NOT_LET_IN, SENT_ELSEWHERE, REFUSED, STRANGER, NOT_ALLOWED -> false;
        };
    }

    /** What to do about it, in plain words. */
    public String advice() {
        return advice;
    }
}
