package yoru.standins.contacts;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.util.UriUtils;
import yoru.standins.practice.Outbox;

/** Where tags are put on and taken off by hand, and people leave lists. */
@Controller
@Profile("contacts")
class ContactsPages {

    private static final int SHOWN = 60;

    private final Contacts contacts;
    private final Outbox outbox;

    ContactsPages(Contacts contacts, Outbox outbox) {
        this.contacts = contacts;
        this.outbox = outbox;
    }

    @GetMapping("/")
    String home(@RequestParam(defaultValue = "") String q, Model model) {
        model.addAttribute("q", q);
        model.addAttribute("contacts", contacts.page("", q.strip(), SHOWN));
        model.addAttribute("allTags", contacts.all("tag"));
        model.addAttribute("allLists", contacts.all("list"));
        model.addAttribute("outbox", outbox.progress());
        return "contacts/home";
    }

    @PostMapping("/contacts/{email}/tags")
    String tag(@PathVariable String email, @RequestParam String tag, @RequestParam String state) {
        var id = tag.strip().toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9-]+", "-");
        if (!id.isEmpty() && contacts.knows(email)) {
            contacts.mark(email, new Contacts.Mark("tag", id, state.equals("on") ? "on" : "off", 0), null);
        }
        return "redirect:/?q=" + UriUtils.encode(email, StandardCharsets.UTF_8);
    }

    /** As somebody does who follows the link at the foot of a letter, or asks for it again. */
    @PostMapping("/contacts/{email}/lists")
    String list(@PathVariable String email, @RequestParam String list, @RequestParam String state) {
        if (contacts.knows(email)
                && contacts.all("list").stream().anyMatch(known -> known.id().equals(list))) {
            contacts.mark(email, new Contacts.Mark("list", list, state.equals("on") ? "on" : "off", 0), null);
        }
        return "redirect:/?q=" + UriUtils.encode(email, StandardCharsets.UTF_8);
    }

    @GetMapping("/practice/progress")
    @ResponseBody
    Outbox.Progress progress() {
        return outbox.progress();
    }
}
