package yoru.standins.contacts;

import java.time.Clock;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
import yoru.standins.practice.Outbox;
import yoru.standins.practice.Reporter;

/** People with their tags, lists and fields. Each change of a tag or a list is reported, whoever made it. */
@Repository
@Profile("contacts")
class Contacts {

    private final JdbcClient jdbc;
    private final Outbox outbox;
    private final Reporter reporter;
    private final Clock clock;

    Contacts(JdbcClient jdbc, Outbox outbox, Reporter reporter, Clock clock) {
        this.clock = clock;
        this.jdbc = jdbc;
        this.outbox = outbox;
        this.reporter = reporter;
    }

    record Named(String id, String title) {}

    record Contact(String email, String name, List<String> tags, List<String> lists, Map<String, String> fields) {}

    record Mark(String kind, String id, String state, int revision) {}

    boolean knows(String email) {
        return jdbc.sql("select count(*) from contact where email = :email")
                        .param("email", email)
                        .query(Integer.class)
                        .single()
                > 0;
    }

    void know(String email, String name) {
        jdbc.sql("insert into contact values (:email, :name) on conflict (email) do update set name = excluded.name")
                .param("email", email)
                .param("name", name)
                .update();
    }

    /**
     * Makes it so, unless something newer was stated before. A tag nobody knew is made.
     *
     * @param cause the key of the request that asked for it; none = by hand
     */
    @Transactional
    public Mark mark(String email, Mark wanted, @Nullable String cause) {
        return mark(email, wanted, cause, clock.instant());
    }

    Mark mark(String email, Mark wanted, @Nullable String cause, Instant at) {
        if (wanted.kind.equals("tag")) {
            jdbc.sql("insert into tag values (:id, :id) on conflict do nothing")
                    .param("id", wanted.id)
                    .update();
        }
        var before = find(email, wanted.kind, wanted.id);
        boolean older = cause != null && before.isPresent() && before.get().revision > wanted.revision;
        if (older) {
            return before.get();
        }
        int revision = cause == null ? before.map(Mark::revision).orElse(0) : wanted.revision;
        jdbc.sql("""
                        insert into mark values (:email, :kind, :id, :state, :revision)
                        on conflict (email, kind, id) do update set state = excluded.state, revision = excluded.revision""")
                .param("email", email)
                .param("kind", wanted.kind)
                .param("id", wanted.id)
                .param("state", wanted.state)
                .param("revision", revision)
                .update();
        boolean changed = !before.map(Mark::state).orElse("off").equals(wanted.state);
        if (changed) {
            report(email, wanted, cause, at);
        }
        return find(email, wanted.kind, wanted.id).orElseThrow();
    }

    private void report(String email, Mark mark, @Nullable String cause, Instant at) {
        var id = UUID.randomUUID().toString();
        Map<String, Object> data = new LinkedHashMap<>();
        data.put(mark.kind, mark.id);
        if (cause != null) {
            data.put("cause", cause);
        }
        outbox.add(
                id,
                reporter.event(
                        id,
                        "https://contacts.hollowoak.example",
                        type(mark.kind, mark.state.equals("on")),
                        email,
                        at,
                        data));
    }

    private static String type(String kind, boolean on) {
        if (kind.equals("list")) {
            return on ? "yoru.list.joined" : "yoru.list.left";
        }
        return on ? "yoru.tag.added" : "yoru.tag.removed";
    }

    private Optional<Mark> find(String email, String kind, String id) {
        return jdbc.sql("select kind, id, state, revision from mark where email = :email and kind = :kind and id = :id")
                .param("email", email)
                .param("kind", kind)
                .param("id", id)
                .query(Mark.class)
                .optional();
    }

    void set(String email, String field, String value) {
        jdbc.sql(
                        "insert into field values (:email, :name, :said) on conflict (email, name) do update set said = excluded.said")
                .param("email", email)
                .param("name", field)
                .param("said", value)
                .update();
    }

    /** What was answered to a request with this key before. */
    Optional<String> answered(String key) {
        return jdbc.sql("select said from answer where key = :key")
                .param("key", key)
                .query(String.class)
                .optional();
    }

    void answer(String key, String said) {
        jdbc.sql("insert into answer values (:key, :said) on conflict do nothing")
                .param("key", key)
                .param("said", said)
                .update();
    }

    List<Contact> page(String after, String words, int limit) {
        return jdbc.sql("""
                        select email, name from contact
                        where email collate "C" > :after and (:words = '' or email like :words or lower(name) like :words)
                        order by email collate "C" limit :limit""")
                .param("after", after)
                .param("words", words.isEmpty() ? "" : "%" + words.toLowerCase(java.util.Locale.ROOT) + "%")
                .param("limit", limit)
                .query((row, at) -> contact(row.getString("email"), row.getString("name")))
                .list();
    }

    private Contact contact(String email, String name) {
        Map<String, String> fields = new LinkedHashMap<>();
        jdbc.sql("select name, said from field where email = :email order by name")
                .param("email", email)
                .query((row, at) -> fields.put(row.getString("name"), row.getString("said")))
                .list();
        return new Contact(email, name, marks(email, "tag"), marks(email, "list"), fields);
    }

    private List<String> marks(String email, String kind) {
        return jdbc.sql("select id from mark where email = :email and kind = :kind and state = 'on' order by id")
                .param("email", email)
                .param("kind", kind)
                .query((row, at) -> row.getString("id"))
                .list();
    }

    List<Named> all(String kind) {
        return jdbc.sql("select id, title from " + (kind.equals("tag") ? "tag" : "list") + " order by title")
                .query((row, at) -> new Named(row.getString("id"), row.getString("title")))
                .list();
    }
}
