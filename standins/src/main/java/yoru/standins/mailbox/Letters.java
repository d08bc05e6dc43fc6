package yoru.standins.mailbox;

import com.icegreen.greenmail.user.GreenMailUser;
import com.icegreen.greenmail.user.UserException;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Service;
import yoru.standins.practice.Manners;

/** Takes letters for everybody, over SMTP (GreenMail behind a gate that can misbehave), and keeps the latest in memory. */
@Service
@Profile("mailbox")
class Letters {

    private final MailboxSettings settings;
    private final Manners manners;
    private final Clock clock;
    private final List<Letter> letters = Collections.synchronizedList(new ArrayList<>());
    private final AtomicInteger taken = new AtomicInteger();
    private final GreenMail server = new GreenMail(new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));
    private final Gate gate;

    Letters(MailboxSettings settings, Manners manners, Clock clock) {
        this.settings = settings;
        this.manners = manners;
        this.clock = clock;
        this.gate = new Gate(manners);
    }

    /** A letter as it arrived. */
    record Letter(
            int number,
            Instant at,
            String to,
            String subject,
            String messageId,
            String headers,
            String text,
            String html) {}

    @PostConstruct
    void open() throws IOException, UserException {
        server.start();
        var users = server.getUserManager();
        GreenMailUser everybody = users.createUser(settings.user(), settings.user(), settings.password());
        users.setAuthRequired(true);
        users.setMessageDeliveryHandler((message, address) -> {
            if (!manners.now().forgetful()) {
                keep(address.getEmail(), message.getMessage());
            }
            return everybody;
        });
        gate.open(settings.port(), server.getSmtp().getPort());
    }

    @PreDestroy
    void close() throws IOException {
        gate.close();
        server.stop();
    }

    /** To an address or any that it is a part of, the newest first. */
    List<Letter> to(String address) {
        synchronized (letters) {
            return letters.reversed().stream()
                    .filter(letter -> letter.to.contains(address))
                    .toList();
        }
    }

    Optional<Letter> letter(int number) {
        synchronized (letters) {
            return letters.stream().filter(letter -> letter.number == number).findFirst();
        }
    }

    int taken() {
        return taken.get();
    }

    private void keep(String to, MimeMessage message) throws MessagingException {
        try {
            var headers = String.join("\n", Collections.list(message.getAllHeaderLines()));
            letters.add(new Letter(
                    taken.incrementAndGet(),
                    clock.instant(),
                    to,
                    Optional.ofNullable(message.getSubject()).orElse(""),
                    Optional.ofNullable(message.getMessageID()).orElse(""),
                    headers,
                    part(message, "text/plain"),
                    part(message, "text/html")));
            if (letters.size() > settings.kept()) {
                letters.removeFirst();
            }
        } catch (IOException e) {
            throw new MessagingException("cannot be read", e);
        }
    }

    private static String part(Part part, String type) throws MessagingException, IOException {
        if (part.isMimeType(type)) {
            return part.getContent().toString();
        }
        if (part.getContent() instanceof Multipart parts) {
            for (int i = 0; i < parts.getCount(); i++) {
                var found = part(parts.getBodyPart(i), type);
                if (!found.isEmpty()) {
                    return found;
                }
            }
        }
        return "";
    }
}
