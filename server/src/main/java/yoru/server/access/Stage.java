package yoru.server.access;

import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.letters.LetterWording;
import yoru.core.story.Setting;
import yoru.server.announcements.GivableSeats;
import yoru.server.announcements.OwnPages;
import yoru.server.announcements.SchoolLetters;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/** Where stories take place that try something out: the school as it is now. */
@Service
public class Stage {

    private final Rulebooks rulebooks;
    private final Landscapes landscapes;
    private final GivableSeats seats;
    private final OwnPages ownPages;
    private final SchoolLetters letters;
    private final SchoolSettings settings;

    Stage(
            Rulebooks rulebooks,
            Landscapes landscapes,
            GivableSeats seats,
            OwnPages ownPages,
            SchoolLetters letters,
            SchoolSettings settings) {
        this.rulebooks = rulebooks;
        this.landscapes = landscapes;
        this.seats = seats;
        this.ownPages = ownPages;
        this.letters = letters;
        this.settings = settings;
    }

    @Transactional(readOnly = true)
    public Setting now() {
        return new Setting(
                settings.name(),
                rulebooks.current().engine(),
                landscapes.current(),
                seats::areKnown,
                letters.own(LetterWording.Kind.OPENED).orElse(null),
                ownPages.areSent());
    }
}
