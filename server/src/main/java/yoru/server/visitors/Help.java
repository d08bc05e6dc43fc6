package yoru.server.visitors;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.EmailAddress;
import yoru.core.ledger.PersonKey;
import yoru.core.letters.Letter.Block;
import yoru.core.letters.Letter.Paragraph;
import yoru.core.letters.OpeningLetter;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SignedTexts;
import yoru.server.policies.SchoolPolicies;
import yoru.server.reception.HeldBack;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Landscapes;

/**
 * Helps whoever has bought something and cannot get in: a letter to the address that they gave says what is open for it.
 * Whoever asked learns nothing from the page, and nothing from how long it took: the work is done afterwards.
 */
@Service
class Help {

    static final TaskDescriptor<String> ANSWER = TaskDescriptor.of("help-to-get-in", String.class);

    private static final String BY_THE_GUEST = "the guest, who proved their address";
    private static final String PURPOSE = "proved address";
    private static final Duration BETWEEN_LETTERS = Duration.ofMinutes(10);
    private static final Duration PROOF_GOOD_FOR = Duration.ofDays(2);

    private final Register register;
    private final LedgerReader ledger;
    private final OwnThings things;
    private final OwnPageLinks links;
    private final OwnPageTable table;
    private final HeldBack held;
    private final SchoolPolicies policies;
    private final Rulebooks rulebooks;
    private final Landscapes landscapes;
    private final VisitorLetters letters;
    private final Journal journal;
    private final SignedTexts signed;
    private final Queue queue;
    private final SchoolSettings settings;
    private final Clock clock;

    Help(
            Register register,
            LedgerReader ledger,
            OwnThings things,
            OwnPageLinks links,
            OwnPageTable table,
            HeldBack held,
            SchoolPolicies policies,
            Rulebooks rulebooks,
            Landscapes landscapes,
            VisitorLetters letters,
            Journal journal,
            SignedTexts signed,
            Queue queue,
            SchoolSettings settings,
            Clock clock) {
        this.register = register;
        this.ledger = ledger;
        this.things = things;
        this.links = links;
        this.table = table;
        this.held = held;
        this.policies = policies;
        this.rulebooks = rulebooks;
        this.landscapes = landscapes;
        this.letters = letters;
        this.journal = journal;
        this.signed = signed;
        this.queue = queue;
        this.settings = settings;
        this.clock = clock;
    }

    @Configuration(proxyBeanMethods = false)
    static class Task {
        @Bean
        OneTimeTask<String> helpToGetIn(Help help) {
            return Tasks.oneTime(ANSWER)
                    .onFailure(Queue.againSoon())
                    .onDeadExecutionRevive()
                    .execute((task, context) -> help.answer(task.getData()));
        }
    }

    /** Puts it into the queue, the same whatever the address is. */
    @Transactional
    public void ask(String address) {
        queue.now(ANSWER, UUID.randomUUID().toString(), PersonKey.plain(address));
    }

    /** Writes to an address, if it is known. */
    @Transactional
    public void answer(String address) {
        var waiting = held.ordersOf(address);
        boolean isKnown = ledger.isKnown(address);
        if (!EmailAddress.isOne(address) || (!isKnown && waiting.isEmpty())) {
            journal.gather(Kind.FACT, "Somebody cannot get in", "with an address that nobody has", "help");
            return;
        }
        var person = isKnown ? things.whoCounts(register.know(address)) : register.know(address);
        var row = links.row(person.id());
        var now = clock.instant();
        if (row.helpedAt != null && row.helpedAt.isAfter(now.minus(BETWEEN_LETTERS))) {
            return; // a letter is on its way
        }
        if (!landscapes.current().carriesLetters()) {
            journal.write(new Journal.Line(
                    Kind.FACT,
                    "Asked how to get in",
                    "nothing was written to " + address + ", for no system that is on carries letters",
                    null,
                    person.id(),
                    null));
            return;
        }
        row.helpedAt = now;
        table.save(row);
        boolean mayProve = !waiting.isEmpty() && policies.inForce().guestsProve();
        write(address, person, waiting, mayProve);
        journal.write(new Journal.Line(
                Kind.FACT,
                "Asked how to get in",
                "a letter said what is open for " + address
                        + (waiting.isEmpty()
                                ? ""
                                : mayProve
                                        ? ", and how to have the waiting order let in"
                                        : ", and that an order waits for somebody at the school"),
                null,
                person.id(),
                null));
    }

    /** The letter goes to the address that was given, which may be one that somebody no longer is known by. */
    private void write(String address, Person person, List<String> waiting, boolean mayProve) {
        letters.send(register.know(address), "help", "How to get in", person, body(address, person, waiting, mayProve));
    }

    private List<Block> body(String address, Person person, List<String> waiting, boolean mayProve) {
        var open = things.open(person);
        var blocks = new ArrayList<Block>();
        blocks.add(new Paragraph("you asked how to get in. "
                + (open.isEmpty() ? "Nothing is open for you at the moment." : "This is open for you:")));
        if (!open.isEmpty()) {
            blocks.add(
                    new OpeningLetter(settings.name(), rulebooks.current().rulebook(), landscapes.current(), null, null)
                            .items(open));
            blocks.add(new Paragraph("Sign in as " + person.key() + "."));
        }
        if (!waiting.isEmpty()) {
            blocks.add(
                    new Paragraph(
                            mayProve
                                    ? "You have bought without an account. Say that this address is yours, and it opens: "
                                            + settings.publicAddress() + "/mine/proof/" + proof(address)
                                    : "You have bought without an account. Somebody at the school looks at it; you need do nothing."));
        } else if (open.isEmpty()) {
            blocks.add(
                    new Paragraph(
                            "If you have bought something with another address, ask again with that one. Otherwise write to the school."));
        }
        links.linkFor(person.id()).ifPresent(link -> blocks.add(OpeningLetter.leadingTo(link)));
        blocks.add(new Paragraph("If you did not ask, you need do nothing."));
        return blocks;
    }

    private String proof(String address) {
        return signed.sign(PURPOSE, clock.instant().plus(PROOF_GOOD_FOR).getEpochSecond() + " " + address);
    }

    /** The address that a link proves; nothing where it is too old, or none of Yoru's. */
    Optional<String> proved(String code) {
        return signed.read(PURPOSE, code)
                .filter(text -> clock.instant().getEpochSecond() < Long.parseLong(text.substring(0, text.indexOf(' '))))
                .map(text -> text.substring(text.indexOf(' ') + 1));
    }

    /**
     * Lets in what waits of a guest who has proved their address.
     *
     * @return how many orders
     */
    @Transactional
    public int letIn(String address) {
        if (!policies.inForce().guestsProve()) {
            return 0;
        }
        var waiting = held.ordersOf(address);
        waiting.forEach(order -> held.release(order, BY_THE_GUEST));
        return waiting.size();
    }
}
