package yoru.standins.community;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;
import org.springframework.context.annotation.Profile;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Who is a member, and of which groups and areas. */
@Repository
@Profile("community")
class Members {

    private final JdbcClient jdbc;
    private final Clock clock;

    Members(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    record Member(String id, String userName, String name, boolean active) {}

    /** @param kind {@code Groups} or {@code Areas} */
    record MeetingPlace(String id, String kind, String title) {}

    /** @return none where somebody has the name already */
    Optional<Member> make(String userName, String name) {
        try {
            jdbc.sql("insert into member values (:id, :userName, :name, true, :now)")
                    .param("id", "m-" + UUID.randomUUID())
                    .param("userName", userName.toLowerCase(Locale.ROOT))
                    .param("name", name)
                    .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                    .update();
        } catch (DuplicateKeyException e) {
            return Optional.empty();
        }
        return named(userName);
    }

    Optional<Member> named(String userName) {
        return jdbc.sql("select * from member where user_name = :userName")
                .param("userName", userName.toLowerCase(Locale.ROOT))
                .query((row, at) -> member(row))
                .optional();
    }

    Optional<Member> member(String id) {
        return jdbc.sql("select * from member where id = :id")
                .param("id", id)
                .query((row, at) -> member(row))
                .optional();
    }

    int count() {
        return jdbc.sql("select count(*) from member").query(Integer.class).single();
    }

    /** @param start counts from 1 (RFC 7644, 3.4.2.4) */
    List<Member> page(int start, int count) {
        return jdbc.sql("select * from member order by user_name collate \"C\" offset :skip limit :count")
                .param("skip", start - 1)
                .param("count", count)
                .query((row, at) -> member(row))
                .list();
    }

    List<MeetingPlace> places(String kind) {
        return jdbc.sql("select id, kind, title from place where kind = :kind order by position")
                .param("kind", kind)
                .query((row, at) -> place(row))
                .list();
    }

    Optional<MeetingPlace> place(String kind, String id) {
        return places(kind).stream().filter(place -> place.id().equals(id)).findFirst();
    }

    List<MeetingPlace> placesOf(String member) {
        return jdbc.sql("""
                        select p.id, p.kind, p.title from place p join membership m on m.place = p.id
                        where m.member = :member order by p.position""")
                .param("member", member)
                .query((row, at) -> place(row))
                .list();
    }

    List<Member> membersOf(String place) {
        return jdbc.sql("""
                        select m.* from member m join membership s on s.member = m.id
                        where s.place = :place order by m.name""")
                .param("place", place)
                .query((row, at) -> member(row))
                .list();
    }

    void join(String place, String member) {
        jdbc.sql("insert into membership values (:place, :member) on conflict do nothing")
                .param("place", place)
                .param("member", member)
                .update();
    }

    void leave(String place, String member) {
        jdbc.sql("delete from membership where place = :place and member = :member")
                .param("place", place)
                .param("member", member)
                .update();
    }

    private static Member member(ResultSet row) throws SQLException {
        return new Member(
                row.getString("id"), row.getString("user_name"), row.getString("name"), row.getBoolean("active"));
    }

    private static MeetingPlace place(ResultSet row) throws SQLException {
        return new MeetingPlace(row.getString("id"), row.getString("kind"), row.getString("title"));
    }
}
