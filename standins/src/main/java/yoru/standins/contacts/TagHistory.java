package yoru.standins.contacts;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.standins.practice.InventedNames;

/** Makes up what was noted about people at open days and on the telephone, over eighteen months. */
@Service
@Profile("contacts")
class TagHistory {

    private static final int GUESTS = 36;

    private final Contacts contacts;
    private final Clock clock;

    TagHistory(Contacts contacts, Clock clock) {
        this.contacts = contacts;
        this.clock = clock;
    }

    /** Does nothing where it was made before. */
    @Transactional
    public void makeOnce() {
        var given = InventedNames.GIVEN;
        var family = InventedNames.FAMILY;
        for (int number = 0; number < GUESTS; number++) {
            var name = given.get(number % given.size()) + " " + family.get((number * 5 + 3) % family.size());
            var email = InventedNames.address(name, "post.example");
            if (number == 0 && contacts.knows(email)) {
                return;
            }
            contacts.know(email, name);
            note(email, number);
        }
    }

    private void note(String email, int number) {
        var came = ago(8 + number * 15);
        past(email, "open-day-guest", true, came);
        if (number % 3 == 1) {
            past(email, "open-day-guest", false, came.plus(Duration.ofDays(5)));
        }
        if (number % 4 == 0) {
            past(email, "asked-about-swarms", true, came.plus(Duration.ofDays(2)));
        }
        if (number % 6 == 2) {
            past(email, "helps-in-spring", true, came.plus(Duration.ofDays(3)));
        }
    }

    private void past(String email, String tag, boolean on, Instant at) {
        contacts.mark(email, new Contacts.Mark("tag", tag, on ? "on" : "off", 0), null, at);
    }

    private Instant ago(int days) {
        return clock.instant().minus(Duration.ofDays(days));
    }
}
