package yoru.standins.practice;

import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.web.server.ResponseStatusException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the system was told to show, by the path of the place; it is told states, so the last one counts. */
@Repository
@Profile({"shop", "classroom"})
public class Showings {

    private static final int LONGEST = 200_000;

    private final JdbcClient jdbc;
    private final JsonMapper json;

    Showings(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /** One of them. */
    public record Showing(String of, JsonNode says) {}

    /** All of them, as the interface answers. */
    public record All(List<Showing> shown) {}

    public void put(String of, JsonNode says) {
        var text = says.toString();
        if (!says.isObject() || of.isBlank() || text.length() > LONGEST) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "a place and an object");
        }
        jdbc.sql("""
                        insert into showing (place, says) values (:of, cast(:says as jsonb))
                        on conflict (place) do update set says = excluded.says""").param("of", of).param("says", text).update();
    }

    public void remove(String of) {
        jdbc.sql("delete from showing where place = :of").param("of", of).update();
    }

    public Optional<JsonNode> of(String place) {
        return jdbc.sql("select says from showing where place = :of")
                .param("of", place)
                .query(String.class)
                .optional()
                .map(json::readTree);
    }

    public All all() {
        return new All(jdbc.sql("select place, says from showing order by place")
                .query((row, number) -> new Showing(row.getString("place"), json.readTree(row.getString("says"))))
                .list());
    }
}
