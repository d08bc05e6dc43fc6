package yoru.core.access;

import java.time.Instant;
import java.util.ArrayList;
import yoru.core.rulebook.Billing.Instalments;
import yoru.core.time.SchoolCalendar;

/**
 * What missing instalments do to a line.
 *
 * @param suspended when it gives nothing
 * @param grace when it still does although one is due
 */
record Late(Windows suspended, Windows grace) {

    static final Late NEVER = new Late(Windows.NONE, Windows.NONE);

    /** @param anchor from which all due times are counted: when the line opened */
    static Late of(Instalments plan, LineMoney money, Instant anchor, SchoolCalendar calendar) {
        var suspended = new ArrayList<Window>();
        var grace = new ArrayList<Window>();
        for (int number = 2; number <= plan.count(); number++) {
            var due = calendar.plus(anchor, plan.every(), number - 1);
            var latest = calendar.plus(due, plan.grace());
            var payment = money.paymentOf(number);
            if (payment.isEmpty()) {
                // those after it are due no earlier, so their suspensions lie in this one, and their grace too
                grace.add(new Window(due, latest));
                suspended.add(new Window(latest, null));
                break;
            }
            var paidAt = payment.get().time();
            grace.add(new Window(due, paidAt.isBefore(latest) ? paidAt : latest));
            suspended.add(new Window(latest, paidAt));
        }
        return new Late(Windows.of(suspended), Windows.of(grace));
    }
}
