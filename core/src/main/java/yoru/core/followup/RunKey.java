package yoru.core.followup;

import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening.FollowupWent;

/**
 * What tells runs apart. What a run makes is called by it.
 *
 * @param person the key under which it began
 */
public record RunKey(String person, String followup, String occasion) {

    /** The occasion of those who were said to have been served without a run. */
    static final String BY_HAND = "adopted";

    static RunKey of(Fact mark) {
        var went = (FollowupWent) mark.happening();
        return new RunKey(mark.subject(), went.followup(), went.occasion());
    }

    public static RunKey of(Followups.Decided decided) {
        return of(decided.mark());
    }

    /** Of somebody who counts as served by a follow-up, though it never went. */
    public static RunKey servedByHand(String person, String followup) {
        return new RunKey(person, followup, BY_HAND);
    }

    /** What the mark of one of its stretches is called. */
    public String stretch(int number) {
        return id(String.valueOf(number));
    }

    /** What the fact is called that it was stopped. */
    public String stopped() {
        return id("stopped");
    }

    /** What something is called that a step of it gave. */
    public String given(String step, String target) {
        return id(step + "|" + target);
    }

    /** What the fact is called that a step of it took a tag off. */
    public String takenOff(String step, String target) {
        return given(step, target) + "|off";
    }

    private String id(String part) {
        return person + "|" + followup + "|" + occasion + "|" + part;
    }
}
