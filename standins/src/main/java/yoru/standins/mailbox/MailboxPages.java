package yoru.standins.mailbox;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;
import yoru.standins.practice.Reporter;

/** The letters, for reading. */
@Controller
@Profile("mailbox")
class MailboxPages {

    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("d MMM uuuu HH:mm", Locale.ENGLISH).withZone(ZoneId.of("Europe/Dublin"));

    private static final int SHOWN = 100;

    private final Letters letters;
    private final Reporter reporter;

    MailboxPages(Letters letters, Reporter reporter) {
        this.letters = letters;
        this.reporter = reporter;
    }

    record Shown(int number, String at, String to, String subject) {}

    @GetMapping("/")
    String home(@RequestParam(defaultValue = "") String q, Model model) {
        model.addAttribute("q", q);
        model.addAttribute("taken", letters.taken());
        model.addAttribute("letters", shown(q.strip().toLowerCase(Locale.ROOT)));
        return "mailbox/home";
    }

    private List<Shown> shown(String to) {
        return letters.to(to).stream()
                .limit(SHOWN)
                .map(letter -> new Shown(letter.number(), time(letter.at()), letter.to(), letter.subject()))
                .toList();
    }

    @GetMapping("/letters/{number}")
    String letter(@PathVariable int number, Model model) {
        return letter(number, List.of(), model);
    }

    private String letter(int number, List<String> said, Model model) {
        var letter = letters.letter(number)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "no such letter"));
        model.addAttribute("said", said);
        model.addAttribute("letter", letter);
        model.addAttribute("at", time(letter.at()));
        return "mailbox/letter";
    }

    /** As somebody does who follows the link at a letter's foot: reported at once, and shown where nobody takes it. */
    @PostMapping("/letters/{number}/lists")
    String leave(@PathVariable int number, @RequestParam String list, Model model) throws InterruptedException {
        var letter = letters.letter(number)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "no such letter"));
        var id = UUID.randomUUID().toString();
        var event = reporter.event(
                id, "https://mailbox.hollowoak.example", "yoru.list.left", letter.to(), Map.of("list", list.strip()));
        var answer = reporter.report(id, event);
        return letter(
                number,
                List.of(answer.taken() ? "They have left the list." : "It was not taken: " + answer.words()),
                model);
    }

    /** For tests: the letters to somebody, whole. */
    @GetMapping("/practice/letters")
    @ResponseBody
    List<Letters.Letter> letters(@RequestParam String to) {
        return letters.to(to);
    }

    @GetMapping("/practice/progress")
    @ResponseBody
    String progress() {
        return String.valueOf(letters.taken());
    }

    private static String time(Instant at) {
        return TIME.format(at);
    }
}
