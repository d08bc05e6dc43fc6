package yoru.server.policies;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.policies.Policies;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;

/** The policies in force. They are read at every report: what is changed counts at once, on every server. */
@Service
public class SchoolPolicies {

    private final PolicyTable table;
    private final Journal journal;

    SchoolPolicies(PolicyTable table, Journal journal) {
        this.table = table;
        this.journal = journal;
    }

    @Transactional(readOnly = true)
    public Policies inForce() {
        return table.findById(Policy.ONLY).orElseThrow().inForce();
    }

    @Transactional
    public void change(Policies wanted, String operator) {
        var policy = table.findById(Policy.ONLY).orElseThrow();
        var before = policy.inForce();
        if (before.equals(wanted)) {
            return;
        }
        policy.become(wanted);
        journal.write(new Journal.Line(
                Kind.OPERATOR, "Policies changed", String.join(", ", changed(before, wanted)), operator, null, null));
    }

    private static List<String> changed(Policies before, Policies wanted) {
        var changed = new ArrayList<String>();
        say(changed, "guests", before.guests(), wanted.guests());
        say(changed, "unknown contacts", before.unknownContacts(), wanted.unknownContacts());
        say(changed, "joining people", before.joining(), wanted.joining());
        say(
                changed,
                "gifts can be taken up for",
                Objects.requireNonNullElse(before.giftsKeptFor(), "ever"),
                Objects.requireNonNullElse(wanted.giftsKeptFor(), "ever"));
        say(changed, "contacts that a system does not know", before.outwards(), wanted.outwards());
        say(changed, "a page of one's own in letters", before.ownPage(), wanted.ownPage());
        say(changed, "guests let in who prove their address", before.guestsProve(), wanted.guestsProve());
        say(changed, "too late to write after", before.late(), wanted.late());
        return changed;
    }

    private static void say(List<String> changed, String what, Object before, Object wanted) {
        if (!before.equals(wanted)) {
            changed.add("%s: %s, before %s".formatted(what, inWords(wanted), inWords(before)));
        }
    }

    private static String inWords(Object value) {
        if (value instanceof Boolean it) {
            return it ? "yes" : "no";
        }
        return value instanceof Enum<?> it
                ? it.name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ')
                : value.toString();
    }
}
