package yoru.server.connectors.mailbox;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import java.net.ConnectException;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.Date;
import java.util.Properties;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.mail.MailAuthenticationException;
import org.springframework.mail.MailException;
import org.springframework.mail.MailSendException;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.connectors.Answers;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.AddressGuard;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Sends letters over SMTP (RFC 5321), as text and as HTML. The Message-ID is made from the delivery, so that a mailbox
 * that gets the same letter twice can tell.
 */
@Component
class MailboxConnector implements Connector {

    private static final int DEFAULT_PORT = 587;
    private static final String UTF_8 = StandardCharsets.UTF_8.name();

    /** How the library says that the server's first words were no welcome. */
    private static final Pattern GREETING = Pattern.compile("response: (\\d{3})");

    private final AddressGuard guard;
    private final YoruSettings settings;
    private final Clock clock;

    MailboxConnector(AddressGuard guard, YoruSettings settings, Clock clock) {
        this.guard = guard;
        this.settings = settings;
        this.clock = clock;
    }

    @Override
    public SystemKind kind() {
        return SystemKind.MAILBOX;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(Ability.MESSAGES);
    }

    @Override
    public AddressForm addressForm() {
        return AddressForm.MAIL;
    }

    @Override
    public String tell(Place place, Statement statement) {
        var letter = letter(statement);
        var sender = sender(place);
        try {
            sender.send(message(sender, place, statement, letter));
        } catch (MailException e) {
            throw inWords(e);
        } catch (MessagingException e) {
            throw new TroubleException(Trouble.REFUSED, "cannot send to " + statement.person() + ": " + e.getMessage());
        }
        return "sent";
    }

    @Override
    public String preview(Place place, Statement statement) {
        var letter = letter(statement);
        return "From: %s\nTo: %s\nSubject: %s\n\n%s"
                .formatted(
                        from(place),
                        recipient(statement, letter),
                        Answers.text(letter, "subject"),
                        Answers.text(letter, "text"));
    }

    private static JsonNode letter(Statement statement) {
        if (!(statement.matter() instanceof Matter.Letter)) {
            throw new IllegalArgumentException("a mailbox cannot be told about " + statement.matter());
        }
        return statement.content().orElseThrow();
    }

    /** The person, where the letter does not say who else. */
    private static String recipient(Statement statement, JsonNode letter) {
        return letter.path("to").asString(statement.person());
    }

    private MimeMessage message(JavaMailSenderImpl sender, Place place, Statement statement, JsonNode letter)
            throws MessagingException {
        var from = new InternetAddress(from(place), true);
        var host = from.getAddress().substring(from.getAddress().indexOf('@') + 1);
        var message = new WithMessageId(sender, "<" + statement.key() + "@" + host + ">");
        message.setFrom(from);
        message.setRecipient(Message.RecipientType.TO, new InternetAddress(recipient(statement, letter), true));
        message.setSubject(Answers.text(letter, "subject"), UTF_8);
        message.setSentDate(Date.from(clock.instant()));
        // RFC 2046, 5.1.4: of two forms of the same, the plainer comes first
        var text = new MimeBodyPart();
        text.setText(Answers.text(letter, "text"), UTF_8);
        var html = new MimeBodyPart();
        html.setText(Answers.text(letter, "html"), UTF_8, "html");
        message.setContent(new MimeMultipart("alternative", text, html));
        message.setHeader("Auto-Submitted", "auto-generated"); // RFC 3834, 5
        if (letter.path("unsubscribe").isString()) {
            message.setHeader(
                    "List-Unsubscribe", "<" + letter.path("unsubscribe").stringValue() + ">"); // RFC 2369
            message.setHeader("List-Unsubscribe-Post", "List-Unsubscribe=One-Click"); // RFC 8058
        }
        return message;
    }

    /** Says hello and goes again. */
    @Override
    public Sample sample(Place place) {
        try {
            sender(place).testConnection();
        } catch (MessagingException e) {
            throw inWords(e);
        }
        return new Sample("its greeting", "The mail server at " + place.address() + " answered and let Yoru in.");
    }

    private JavaMailSenderImpl sender(Place place) {
        var address = URI.create(place.address());
        guard.check(address);
        var sender = new JavaMailSenderImpl();
        sender.setHost(address.getHost());
        sender.setPort(address.getPort() < 0 ? DEFAULT_PORT : address.getPort());
        sender.setDefaultEncoding(UTF_8);
        var timeout = String.valueOf(settings.delivery().timeout().toMillis());
        var properties = new Properties();
        properties.setProperty("mail.smtp.connectiontimeout", timeout);
        properties.setProperty("mail.smtp.timeout", timeout);
        properties.setProperty("mail.smtp.writetimeout", timeout);
        properties.setProperty("mail.smtp.localhost", "yoru");
        if (address.getScheme().equals("smtps")) {
            properties.setProperty("mail.smtp.ssl.enable", "true");
        } else {
            properties.setProperty("mail.smtp.starttls.enable", "true");
            // without it the password and all letters could be read on their way
            boolean mayBeRead = guard.staysInside(address)
                    || place.settings().getOrDefault(Connections.OPENLY, "").equals("yes");
            properties.setProperty("mail.smtp.starttls.required", String.valueOf(!mayBeRead));
        }
        if (!place.token().isEmpty()) {
            properties.setProperty("mail.smtp.auth", "true");
            sender.setUsername(place.settings().getOrDefault("user", from(place)));
            sender.setPassword(place.token());
        }
        sender.setJavaMailProperties(properties);
        return sender;
    }

    private static String from(Place place) {
        var from = place.settings().getOrDefault("from", "");
        if (from.isEmpty()) {
            throw new TroubleException(Trouble.REFUSED, "has no sender's address set");
        }
        return from;
    }

    private static TroubleException inWords(Exception e) {
        if (e instanceof MailAuthenticationException) {
            return new TroubleException(Trouble.NOT_LET_IN, "does not accept the name and password");
        }
        for (Throwable cause = e; cause != null; cause = next(cause)) {
            switch (cause) {
                case AuthenticationFailedException _ -> {
                    return new TroubleException(Trouble.NOT_LET_IN, "does not accept the name and password");
                }
                case ConnectException _ -> {
                    return new TroubleException(Trouble.AWAY, "is not there (connection refused)");
                }
                case SocketTimeoutException _ -> {
                    return new TroubleException(Trouble.SLOW, "did not answer in time");
                }
                case SendFailedException refused -> {
                    return refused(refused);
                }
                default -> {
                    if (String.valueOf(cause.getMessage()).contains("STARTTLS is required")) {
                        return new TroubleException(
                                Trouble.REFUSED,
                                "does not encrypt (STARTTLS): nothing was sent. Use smtps, or say in its settings that letters"
                                        + " may be read on their way");
                    }
                    var greeting = GREETING.matcher(String.valueOf(cause.getMessage()));
                    if (greeting.find()) {
                        // RFC 5321, 4.2.1: 4yz is for now, 5yz for good
                        return new TroubleException(
                                greeting.group(1).startsWith("4") ? Trouble.BUSY : Trouble.BROKEN,
                                "answered " + greeting.group(1));
                    }
                }
            }
        }
        return new TroubleException(Trouble.CUT_OFF, "broke off the connection");
    }

    /** RFC 5321, 4.2.1: 4yz is for now, 5yz for good. */
    private static TroubleException refused(SendFailedException e) {
        var said = String.valueOf(
                        e.getNextException() == null
                                ? e.getMessage()
                                : e.getNextException().getMessage())
                .strip();
        return said.startsWith("4")
                ? new TroubleException(Trouble.BUSY, "did not take the letter for now: " + said)
                : new TroubleException(Trouble.REFUSED, "did not take the letter: " + said);
    }

    private static @Nullable Throwable next(Throwable e) {
        return e instanceof MailSendException send && send.getMessageExceptions().length > 0
                ? send.getMessageExceptions()[0]
                : e.getCause();
    }

    /** Keeps the Message-ID that was set; the library would make a new one for every try. */
    private static final class WithMessageId extends MimeMessage {

        private final String id;

        WithMessageId(JavaMailSenderImpl sender, String id) {
            super(sender.getSession());
            this.id = id;
        }

        @Override
        protected void updateMessageID() throws MessagingException {
            setHeader("Message-ID", id);
        }
    }
}
