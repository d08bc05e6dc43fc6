package yoru.server.visitors;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.desk.Act;
import yoru.core.ledger.EmailAddress;
import yoru.core.ledger.PersonKey;
import yoru.core.letters.Letter.Paragraph;
import yoru.server.desk.DeskService;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.Sha256;
import yoru.server.platform.SignedTexts;
import yoru.server.systems.Landscapes;

/** Somebody is to be known by another address: both get a letter, and only whoever reads the new one's can say yes. */
@Service
class AddressChange {

    private static final String PURPOSE = "another address";
    private static final Duration GOOD_FOR = Duration.ofDays(1);
    private static final Duration BETWEEN_LETTERS = Duration.ofMinutes(10);

    private final Register register;
    private final OwnThings things;
    private final OwnPageLinks links;
    private final OwnPageTable table;
    private final DeskService desk;
    private final VisitorLetters letters;
    private final Landscapes landscapes;
    private final SignedTexts signed;
    private final SchoolSettings settings;
    private final Clock clock;

    AddressChange(
            Register register,
            OwnThings things,
            OwnPageLinks links,
            OwnPageTable table,
            DeskService desk,
            VisitorLetters letters,
            Landscapes landscapes,
            SignedTexts signed,
            SchoolSettings settings,
            Clock clock) {
        this.register = register;
        this.things = things;
        this.links = links;
        this.table = table;
        this.desk = desk;
        this.letters = letters;
        this.landscapes = landscapes;
        this.signed = signed;
        this.settings = settings;
        this.clock = clock;
    }

    /** What a link in a letter says: whose address is to become which. */
    record Wanted(long person, String address) {}

    /** Writes to both addresses; nothing changes yet. */
    @Transactional
    public void ask(Person person, String wanted) {
        var address = PersonKey.plain(wanted);
        if (!EmailAddress.isOne(address)) {
            throw refused("This is no e-mail address.");
        }
        if (address.equals(person.key())) {
            throw refused("This is your address already.");
        }
        if (!landscapes.current().carriesLetters()) {
            throw refused("No letters can be sent at the moment. Try again later.");
        }
        var row = links.row(person.id());
        var now = clock.instant();
        if (row.addressAskedAt != null && row.addressAskedAt.isAfter(now.minus(BETWEEN_LETTERS))) {
            throw new ProblemException(
                    HttpStatus.TOO_MANY_REQUESTS, "It was just asked for", "Wait ten minutes before you ask again.");
        }
        row.addressAskedAt = now;
        table.save(row);
        var code = signed.sign(PURPOSE, now.plus(GOOD_FOR).getEpochSecond() + " " + person.id() + " " + address);
        write(
                register.know(address),
                "Is this your address from now on?",
                "somebody who has %s wants to be known by this address from now on. If that is you, say so here: "
                                .formatted(person.key())
                        + settings.publicAddress() + "/mine/address/" + code,
                "If it is not, you need do nothing. The link is good for a day.");
        write(
                person,
                "Another address?",
                "somebody asked on your page to be known by %s instead of this address.".formatted(address),
                "If that was you, follow the link in the letter to the new address. If it was not, write to the school at once.");
    }

    Optional<Wanted> wanted(String code) {
        return signed.read(PURPOSE, code)
                .map(text -> text.split(" ", 3))
                .filter(parts -> Long.parseLong(parts[0]) > clock.instant().getEpochSecond())
                .map(parts -> new Wanted(Long.parseLong(parts[1]), parts[2]));
    }

    /** All that counted for the old address counts for the new one. Confirmed again, nothing is done again. */
    @Transactional
    public void confirm(String code, Wanted wanted) {
        var known = register.person(wanted.person)
                .orElseThrow(() -> ProblemException.notFound("There is nobody with this address any more."));
        var person = things.whoCounts(known);
        if (person.key().equals(wanted.address)) {
            return;
        }
        desk.visit(
                "address-" + Sha256.of(code).substring(0, 40),
                new Act.Join(person.key(), wanted.address),
                person.name().equals(person.key()) ? "" : person.name(),
                person.key());
        write(
                register.know(wanted.address),
                "This is your address now",
                "from now on you are known by this address. Sign in with it.",
                "What you have is as it was.");
        write(
                person,
                "Your address was changed",
                "from now on you are known by %s.".formatted(wanted.address),
                "If that was not you, write to the school at once.");
    }

    private void write(Person to, String subject, String what, String then) {
        letters.send(to, "address", subject, to, List.of(new Paragraph(what), new Paragraph(then)));
    }

    private static ProblemException refused(String why) {
        return new ProblemException(HttpStatus.UNPROCESSABLE_CONTENT, "The address was not changed", why);
    }
}
