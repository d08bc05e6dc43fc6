package yoru.standins.contacts;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.server.ResponseStatusException;
import tools.jackson.databind.json.JsonMapper;
import yoru.standins.Standins;
import yoru.standins.practice.Manners;
import yoru.standins.practice.Outbox;

/** The contacts API, described in {@code contacts-api.yaml}. */
@RestController
@Profile("contacts")
class ContactsApi {

    private static final Pattern FIELD = Pattern.compile("[a-z0-9 _-]{1,60}");

    private final Contacts contacts;
    private final TagHistory history;
    private final Outbox outbox;
    private final ContactsSettings settings;
    private final Manners manners;
    private final JsonMapper json;

    ContactsApi(
            Contacts contacts,
            TagHistory history,
            Outbox outbox,
            ContactsSettings settings,
            Manners manners,
            JsonMapper json) {
        this.history = history;
        this.outbox = outbox;
        this.contacts = contacts;
        this.settings = settings;
        this.manners = manners;
        this.json = json;
    }

    record Person(@Nullable String name) {}

    record Stated(@Nullable String state, int revision) {}

    record Value(@Nullable String value) {}

    record Page(List<Contacts.Contact> contacts, @Nullable String next) {}

    @GetMapping("/catalogue")
    Map<String, List<Contacts.Named>> catalogue(
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        return Map.of("tags", contacts.all("tag"), "lists", contacts.all("list"));
    }

    /** Makes up what was noted in the past, once, and begins to report it. */
    @PostMapping("/practice/history")
    Outbox.Progress makeHistory(@RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        history.makeOnce();
        return outbox.progress();
    }

    @GetMapping("/api/contacts")
    Page page(
            @RequestParam(defaultValue = "") String after,
            @RequestParam(defaultValue = "100") int limit,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        var page = contacts.page(after, "", Math.clamp(limit, 1, 1000));
        return new Page(page, page.size() < limit ? null : page.getLast().email());
    }

    @GetMapping("/api/contacts/{email}")
    Map<String, String> get(
            @PathVariable String email, @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        known(plain(email));
        return Map.of("email", plain(email));
    }

    @PutMapping("/api/contacts/{email}")
    Map<String, String> know(
            @PathVariable String email,
            @RequestBody Person person,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        if (!manners.now().forgetful()) {
            contacts.know(plain(email), person.name == null ? email : person.name);
        }
        return Map.of("email", plain(email));
    }

    @PutMapping("/api/contacts/{email}/tags/{id}")
    ResponseEntity<String> tag(
            @PathVariable String email,
            @PathVariable String id,
            @RequestBody Stated stated,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        return mark(email, "tag", id, stated, key, token);
    }

    @PutMapping("/api/contacts/{email}/lists/{id}")
    ResponseEntity<String> list(
            @PathVariable String email,
            @PathVariable String id,
            @RequestBody Stated stated,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        return mark(email, "list", id, stated, key, token);
    }

    @PutMapping("/api/contacts/{email}/fields/{name}")
    Value field(
            @PathVariable String email,
            @PathVariable String name,
            @RequestBody Value value,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        known(plain(email));
        if (!FIELD.matcher(name).matches()) {
            throw new ResponseStatusException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "there is no field “" + name + "”: their names are in small letters");
        }
        if (!manners.now().forgetful()) {
            contacts.set(plain(email), name, value.value == null ? "" : value.value);
        }
        return value;
    }

    @GetMapping(path = "/api/openapi.yaml", produces = "application/yaml")
    String description() throws IOException {
        return new ClassPathResource("contacts-api.yaml").getContentAsString(StandardCharsets.UTF_8);
    }

    private ResponseEntity<String> mark(String email, String kind, String id, Stated stated, String key, String token) {
        Standins.letIn(token, settings.token());
        if (key.isEmpty() || (!"on".equals(stated.state) && !"off".equals(stated.state))) {
            throw new ResponseStatusException(
                    HttpStatus.BAD_REQUEST, "Idempotency-Key and a state on or off are needed");
        }
        var before = contacts.answered(key);
        if (before.isPresent()) {
            return answer(before.get());
        }
        known(plain(email));
        if (kind.equals("list")
                && contacts.all("list").stream().noneMatch(list -> list.id().equals(id))) {
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, "there is no list " + id);
        }
        if (manners.now().forgetful()) {
            return answer(json.writeValueAsString(stated));
        }
        var said = json.writeValueAsString(contacts.mark(
                plain(email), new Contacts.Mark(kind, id, Objects.requireNonNull(stated.state), stated.revision), key));
        contacts.answer(key, said);
        return answer(said);
    }

    private void known(String email) {
        if (!contacts.knows(email)) {
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, "there is no contact " + email);
        }
    }

    private static ResponseEntity<String> answer(String said) {
        return ResponseEntity.ok().contentType(MediaType.APPLICATION_JSON).body(said);
    }

    private static String plain(String email) {
        return email.strip().toLowerCase(Locale.ROOT);
    }
}
