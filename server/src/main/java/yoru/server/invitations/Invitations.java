package yoru.server.invitations;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.letters.Letter;
import yoru.core.systems.Matter;
import yoru.server.accounts.Accounts;
import yoru.server.accounts.Accounts.Member;
import yoru.server.accounts.PasswordCodes;
import yoru.server.accounts.Role;
import yoru.server.accounts.SignedIn;
import yoru.server.announcements.LetterJson;
import yoru.server.platform.Queue;
import yoru.server.platform.SchoolSettings;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;

/** Has people of the team set a password of their own. */
@Service
class Invitations {

    /** What is to be written, before the address to which. */
    private static final String INVITATION = "invitation ";

    private static final String FORGOTTEN = "forgotten ";

    private static final TaskDescriptor<String> LETTER = TaskDescriptor.of("letter-to-set-a-password", String.class);

    /** Over a weekend, and a day. */
    private static final Duration INVITATION_GOOD_FOR = Duration.ofDays(4);

    /** NIST SP 800-63B-4, 4.2.1.1 allows a code sent by letter 24 hours; whoever asked for it waits for it. */
    private static final Duration LETTER_GOOD_FOR = Duration.ofHours(2);

    private final Accounts accounts;
    private final PasswordCodes codes;
    private final Connections connections;
    private final Connectors connectors;
    private final Queue queue;
    private final SchoolSettings settings;
    private final JsonMapper json;

    Invitations(
            Accounts accounts,
            PasswordCodes codes,
            Connections connections,
            Connectors connectors,
            Queue queue,
            SchoolSettings settings,
            JsonMapper json) {
        this.accounts = accounts;
        this.codes = codes;
        this.connections = connections;
        this.connectors = connectors;
        this.queue = queue;
        this.settings = settings;
        this.json = json;
    }

    @Configuration(proxyBeanMethods = false)
    static class Task {
        @Bean
        OneTimeTask<String> letterToSetAPassword(Invitations invitations) {
            return Tasks.oneTime(LETTER)
                    .onFailure(Queue.againSoon())
                    .onDeadExecutionRevive()
                    .execute((task, context) -> invitations.write(task.getData()));
        }
    }

    /**
     * Somebody who was asked to work with Yoru.
     *
     * @param link shown this once, to be handed over, where no mailbox is connected that could carry a letter
     */
    record Invited(Member member, @Nullable String link) {}

    @Transactional
    public Invited invite(String email, String name, Role role, SignedIn owner) {
        return invite(accounts.add(email, name, role, owner));
    }

    /** Once more, to somebody of the team who lost the first, or their password. */
    @Transactional
    public Invited again(UUID id) {
        return invite(accounts.member(id));
    }

    private Invited invite(Member member) {
        if (mailbox().isEmpty()) {
            return new Invited(member, link(member, INVITATION_GOOD_FOR));
        }
        queue.now(LETTER, UUID.randomUUID().toString(), INVITATION + member.email());
        return new Invited(member, null);
    }

    /** Puts it into the queue, the same whatever the address is. Nobody's mailbox is filled by asking. */
    @Transactional
    public void forgotten(String email) {
        if (codes.isTimeForALetter(email)) {
            queue.now(LETTER, UUID.randomUUID().toString(), FORGOTTEN + email);
        }
    }

    /** The code is made only now, and stands nowhere but in the letter. Nobody has the address any more: nothing is written. */
    void write(String what) {
        var to = accounts.member(what.substring(what.indexOf(' ') + 1));
        var mailbox = mailbox();
        if (to.isEmpty() || mailbox.isEmpty()) {
            return;
        }
        // whoever asks for another password who was invited, or for whom somebody else asks, is invited still
        boolean isInvitation = what.startsWith(INVITATION) || to.get().invited();
        var link = link(to.get(), isInvitation ? INVITATION_GOOD_FOR : LETTER_GOOD_FOR);
        send(mailbox.get(), to.get(), isInvitation ? invitation(to.get(), link) : forgotten(to.get(), link));
    }

    private Letter invitation(Member to, String link) {
        return letter(
                to,
                "Work with " + settings.name(),
                "You were asked to work with " + settings.name()
                        + " in Yoru. Choose a password of your own here, within four days: " + link,
                null);
    }

    private Letter forgotten(Member to, String link) {
        return letter(
                to,
                "Another password for Yoru",
                "Somebody, most likely you, asked for another password for Yoru. Choose one here, within two hours: "
                        + link,
                "If it was not you, nothing has changed and you need not do anything.");
    }

    private Letter letter(Member to, String subject, String text, @Nullable String more) {
        var blocks = new ArrayList<Letter.Block>(
                List.of(new Letter.Paragraph("Hello " + to.name() + ","), new Letter.Paragraph(text)));
        if (more != null) {
            blocks.add(new Letter.Paragraph(more));
        }
        blocks.add(new Letter.Paragraph(settings.name()));
        return new Letter(subject, blocks);
    }

    private void send(Connection mailbox, Member to, Letter letter) {
        var name = "account-" + UUID.randomUUID();
        connectors
                .of(mailbox)
                .tell(
                        connections.place(mailbox),
                        new Statement(
                                to.email(),
                                to.name(),
                                new Matter.Letter(name),
                                true,
                                null,
                                false,
                                1,
                                name,
                                json.valueToTree(LetterJson.of(letter))));
    }

    private Optional<Connection> mailbox() {
        return connections.all().stream()
                .filter(connection -> connection.kind() == SystemKind.MAILBOX && connection.isOn())
                .findFirst();
    }

    private String link(Member member, Duration goodFor) {
        // behind the mark, so that it stands in no log of a server between
        return settings.publicAddress() + "/password#"
                + codes.make(member.id(), goodFor).text();
    }
}
