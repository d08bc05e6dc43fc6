package yoru.server.connectors;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.systems.Matter;
import yoru.server.ServerTest;
import yoru.server.StandIn;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** Letters as a real SMTP server gets them: GreenMail, in the practice mailbox. */
@ServerTest
class MailboxConnectorTests {

    @Autowired
    private Connectors connectors;

    @BeforeAll
    static void start() {
        StandIn.startAll("mailbox");
    }

    @AfterEach
    void behave() {
        mailbox().behave("");
    }

    @Test
    void aLetterIsTextAndHtmlAndTellsItsTriesApart() {
        var person = someone();
        connector().tell(place(mailbox().token()), letter(person, "yoru-7-1", ""));
        connector().tell(place(mailbox().token()), letter(person, "yoru-7-1", ""));
        assertThat(connector().preview(place(mailbox().token()), letter(person, "yoru-7-1", "")))
                .isEqualTo(
                        "From: Hollow Oak <hello@hollowoak.example>\nTo: %s\nSubject: %s\n\n%s",
                        person, "Königinnen & Co. 🐝", "Grüße aus dem Bienenhaus");
        var letters = lettersTo(person);
        assertThat(letters).hasSize(2).allSatisfy(it -> {
            assertThat(it.path("messageId").asString()).isEqualTo("<yoru-7-1@hollowoak.example>");
            assertThat(it.path("subject").asString()).isEqualTo("Königinnen & Co. 🐝");
            assertThat(it.path("text").asString()).isEqualTo("Grüße aus dem Bienenhaus");
            assertThat(it.path("html").asString()).isEqualTo("<p>Grüße</p>");
            // RFC 5322, 3.6: the fields that a letter must have; RFC 3834, 5
            assertThat(it.path("headers").asString())
                    .contains(
                            "Date: ",
                            "From: Hollow Oak <hello@hollowoak.example>",
                            "To: " + person,
                            "MIME-Version: 1.0")
                    .contains("multipart/alternative", "Auto-Submitted: auto-generated")
                    .doesNotContain("List-Unsubscribe");
        });
    }

    @Test
    void aLetterToManyCanBeLeft() {
        var person = someone();
        connector()
                .tell(place(mailbox().token()), letter(person, "k", ", \"unsubscribe\": \"https://yoru.example/u/1\""));
        // RFC 2369 and RFC 8058
        assertThat(lettersTo(person).getFirst().path("headers").asString())
                .contains(
                        "List-Unsubscribe: <https://yoru.example/u/1>",
                        "List-Unsubscribe-Post: List-Unsubscribe=One-Click");
    }

    @ParameterizedTest
    @CsvSource({"busy=true,BUSY", "faultyOneIn=1,BROKEN", "down=true,CUT_OFF", "slowSeconds=11,SLOW"})
    void everyTroubleIsTold(String form, Trouble trouble) {
        mailbox().behave(form);
        assertTrouble(mailbox().token(), someone(), trouble);
    }

    @Test
    void whatCannotBeSentIsToldAndNotTriedAsIfTheSystemWereBroken() {
        assertTrouble("wrong password", someone(), Trouble.NOT_LET_IN);
        assertTrouble(mailbox().token(), "two@at@signs", Trouble.REFUSED);
        // a line break in an address or a subject must not make a header of its own
        assertTrouble(mailbox().token(), "a@post.example\r\nBcc: b@post.example", Trouble.REFUSED);
    }

    private void assertTrouble(String token, String person, Trouble trouble) {
        assertThatThrownBy(() -> connector().tell(place(token), letter(person, "k", "")))
                .isInstanceOfSatisfying(
                        TroubleException.class,
                        e -> assertThat(e.trouble()).as(e.words()).isEqualTo(trouble));
    }

    private static Statement letter(String person, String key, String more) {
        var said = JsonMapper.shared().readTree("""
                {"subject": "Königinnen & Co. 🐝", "text": "Grüße aus dem Bienenhaus", "html": "<p>Grüße</p>"%s}""".formatted(more));
        return new Statement(person, "Petra", new Matter.Letter("1"), true, null, false, 1, key, said);
    }

    private static List<JsonNode> lettersTo(String person) {
        return mailbox().lettersTo(person).valueStream().toList();
    }

    private Connector connector() {
        return connectors.of(SystemKind.MAILBOX);
    }

    private static StandIn mailbox() {
        return StandIn.of("mailbox");
    }

    private static Place place(String token) {
        return new Place(
                "m",
                "M",
                SystemKind.MAILBOX,
                mailbox().mailAddress(),
                token,
                List.of(),
                Map.of("user", "yoru", "from", "Hollow Oak <hello@hollowoak.example>"));
    }

    private static String someone() {
        return "m-" + UUID.randomUUID() + "@post.example";
    }
}
