package yoru.standins.classroom;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What the classroom keeps: courses, learners, who may be where, and what it answered. */
@Repository
@Profile("classroom")
class Register {

    private static final String ENROLMENT = """
            select e.course_id, e.learner, e.state, e.until, e.renews, e.revision,
                   (select count(*) from lesson_done d where d.course_id = e.course_id and d.learner = e.learner) as done
            from enrolment e""";

    private final JdbcClient jdbc;
    private final Clock clock;

    Register(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** One answer of the enrolment API. */
    record Answer(String at, String asked, String key, int status, String said) {}

    record Named(String id, String title) {}

    /** @param thing {@code course/ID}, {@code section/COURSE/ID} or {@code download/ID} */
    record Held(
            String thing,
            String learner,
            String state,
            @Nullable Instant until,
            boolean renews) {}

    /** What should be so. */
    record Wanted(
            String course,
            String learner,
            String name,
            String state,
            @Nullable Instant until,
            boolean renews,
            int revision) {}

    List<Course> courses() {
        Map<String, List<Course.Section>> sections = jdbc
                .sql("select course_id, id, title, tier from section order by course_id, position")
                .query((row, at) -> Map.entry(
                        row.getString("course_id"),
                        new Course.Section(row.getString("id"), row.getString("title"), row.getString("tier"))))
                .list()
                .stream()
                .collect(Collectors.groupingBy(
                        Map.Entry::getKey, Collectors.mapping(Map.Entry::getValue, Collectors.toList())));
        return jdbc.sql("select * from course order by position")
                .query((row, at) -> new Course(
                        row.getString("id"),
                        row.getString("title"),
                        row.getString("category"),
                        row.getBoolean("content"),
                        row.getBoolean("published"),
                        row.getString("door"),
                        row.getBoolean("sold_here"),
                        row.getString("about"),
                        row.getString("sold_as"),
                        sections.getOrDefault(row.getString("id"), List.of())))
                .list();
    }

    Optional<Course> course(String id) {
        return courses().stream().filter(course -> course.id().equals(id)).findFirst();
    }

    /** @return false where there is one with this id */
    boolean make(String course, String title, String category, String about) {
        return jdbc.sql("""
                        insert into course (id, title, category, content, published, door, about)
                        values (:id, :title, :category, false, false, 'by-enrolment', :about) on conflict do nothing""")
                        .param("id", course)
                        .param("title", title)
                        .param("category", category)
                        .param("about", about)
                        .update()
                == 1;
    }

    /** A lesson; the course has content from then on. */
    @Transactional
    public void addSection(String course, String id, String title, String tier) {
        jdbc.sql("insert into section (course_id, id, title, tier) values (?, ?, ?, ?) on conflict do nothing")
                .params(course, id, title, tier)
                .update();
        jdbc.sql("update course set content = true where id = ?").param(course).update();
    }

    void change(String course, boolean content, boolean published, String door, boolean soldHere, String soldAs) {
        jdbc.sql("""
                        update course set content = :content, published = :published, door = :door, sold_here = :sold,
                          sold_as = :as where id = :id""")
                .param("as", soldAs)
                .param("content", content)
                .param("published", published)
                .param("door", door)
                .param("sold", soldHere)
                .param("id", course)
                .update();
    }

    Optional<Enrolment> enrolment(String course, String learner) {
        return jdbc.sql(ENROLMENT + " where e.course_id = :course and e.learner = :learner")
                .param("course", course)
                .param("learner", learner)
                .query((row, at) -> enrolment(row))
                .optional();
    }

    List<Enrolment> enrolmentsOf(String learner) {
        return jdbc.sql(ENROLMENT + " where e.learner = :learner order by e.course_id")
                .param("learner", learner)
                .query((row, at) -> enrolment(row))
                .list();
    }

    boolean knows(String learner) {
        return jdbc.sql("select count(*) from learner where email = :email")
                        .param("email", learner)
                        .query(Integer.class)
                        .single()
                > 0;
    }

    void know(String learner, String name) {
        jdbc.sql("insert into learner (email, name) values (:email, :name) on conflict (email) do nothing")
                .param("email", learner)
                .param("name", name)
                .update();
    }

    /** Makes it so, unless something newer was stated before. */
    @Transactional
    public Enrolment state(Wanted wanted) {
        know(wanted.learner, wanted.name);
        jdbc.sql("""
                        insert into enrolment (course_id, learner, state, until, renews, revision, changed_at)
                        values (:course, :learner, :state, :until, :renews, :revision, :now)
                        on conflict (course_id, learner) do update set
                          state = excluded.state, until = excluded.until, renews = excluded.renews, revision = excluded.revision, changed_at = excluded.changed_at
                        where enrolment.revision <= excluded.revision""")
                .param("course", wanted.course)
                .param("learner", wanted.learner)
                .param("state", wanted.state)
                .param("until", wanted.until == null ? null : wanted.until.atOffset(ZoneOffset.UTC))
                .param("renews", wanted.renews)
                .param("revision", wanted.revision)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        return enrolment(wanted.course, wanted.learner).orElseThrow();
    }

    /** A download or a section; courses stand by themselves, for their lessons. */
    @Transactional
    public Held hold(String thing, Wanted wanted) {
        know(wanted.learner, wanted.name);
        jdbc.sql("""
                        insert into held (thing, learner, state, until, renews, revision, changed_at)
                        values (:thing, :learner, :state, :until, :renews, :revision, :now)
                        on conflict (thing, learner) do update set
                          state = excluded.state, until = excluded.until, renews = excluded.renews, revision = excluded.revision, changed_at = excluded.changed_at
                        where held.revision <= excluded.revision""")
                .param("thing", thing)
                .param("learner", wanted.learner)
                .param("state", wanted.state)
                .param("until", wanted.until == null ? null : wanted.until.atOffset(ZoneOffset.UTC))
                .param("renews", wanted.renews)
                .param("revision", wanted.revision)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        return jdbc.sql(
                        "select thing, learner, state, until, renews from held where thing = :thing and learner = :learner")
                .param("thing", thing)
                .param("learner", wanted.learner)
                .query((row, at) -> held(row))
                .single();
    }

    /** Whoever was let into single sections of a course is let into no others. */
    boolean letsSection(String course, String section, String learner) {
        return jdbc.sql("""
                        select count(*) filter (where thing = :thing and state = 'open' and (until is null or until > :now)) > 0
                            or count(*) = 0
                        from held where learner = :learner and starts_with(thing, :sections)""")
                .param("thing", "section/" + course + "/" + section)
                .param("sections", "section/" + course + "/")
                .param("learner", learner)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Boolean.class)
                .single();
    }

    /** Downloads that somebody has now. */
    List<Named> downloadsOf(String learner) {
        return jdbc.sql("""
                        select d.id, d.title from download d join held h on h.thing = 'download/' || d.id
                        where h.learner = :learner and h.state = 'open' and (h.until is null or h.until > :now)
                        order by d.position""")
                .param("learner", learner)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .query((row, at) -> new Named(row.getString("id"), row.getString("title")))
                .list();
    }

    List<Named> downloads() {
        return jdbc.sql("select id, title from download order by position")
                .query((row, at) -> new Named(row.getString("id"), row.getString("title")))
                .list();
    }

    /** Who has what, in the order of (learner, thing), after the given one. */
    List<Held> listing(String learner, String thing, int limit) {
        return jdbc.sql("""
                        select * from (
                          select 'course/' || course_id as thing, learner, state, until, renews from enrolment
                          union all select thing, learner, state, until, renews from held) everything
                        where (learner collate "C", thing collate "C") > (:learner, :thing)
                        order by learner collate "C", thing collate "C" limit :limit""")
                .param("learner", learner)
                .param("thing", thing)
                .param("limit", limit)
                .query((row, at) -> held(row))
                .list();
    }

    private static Held held(ResultSet row) throws SQLException {
        return new Held(
                row.getString("thing"),
                row.getString("learner"),
                row.getString("state"),
                until(row),
                row.getBoolean("renews"));
    }

    /** What was answered to a request with this key before. */
    Optional<String> answered(String key) {
        return jdbc.sql("select said from answer where key = :key and status < 300 order by id limit 1")
                .param("key", key)
                .query(String.class)
                .optional();
    }

    void log(String asked, String key, int status, String said) {
        jdbc.sql("insert into answer (at, asked, key, status, said) values (:at, :asked, :key, :status, :said)")
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .param("asked", asked)
                .param("key", key)
                .param("status", status)
                .param("said", said)
                .update();
    }

    List<Answer> latestAnswers() {
        return jdbc.sql(
                        "select to_char(at at time zone 'Europe/Dublin', 'DD Mon HH24:MI:SS') as at, asked, key, status, said from answer order by id desc limit 40")
                .query((row, at) -> new Answer(
                        row.getString("at"),
                        row.getString("asked"),
                        row.getString("key"),
                        row.getInt("status"),
                        row.getString("said")))
                .list();
    }

    void markDone(String course, String section, String learner) {
        jdbc.sql(
                        "insert into lesson_done (course_id, section_id, learner) values (:course, :section, :learner) on conflict do nothing")
                .param("course", course)
                .param("section", section)
                .param("learner", learner)
                .update();
    }

    List<String> done(String course, String learner) {
        return jdbc.sql("select section_id from lesson_done where course_id = :course and learner = :learner")
                .param("course", course)
                .param("learner", learner)
                .query((row, at) -> row.getString("section_id"))
                .list();
    }

    private static Enrolment enrolment(ResultSet row) throws SQLException {
        return new Enrolment(
                row.getString("course_id"),
                row.getString("learner"),
                row.getString("state"),
                until(row),
                row.getBoolean("renews"),
                row.getInt("revision"),
                row.getInt("done"));
    }

    private static @Nullable Instant until(ResultSet row) throws SQLException {
        var until = row.getObject("until", OffsetDateTime.class);
        return until == null ? null : until.toInstant();
    }
}
