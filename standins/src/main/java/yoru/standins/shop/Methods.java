package yoru.standins.shop;

import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Profile;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Methods of payment on file: whoever pays with an account leaves one; no money moves. */
@Service
@Profile("shop")
class Methods {

    private final JdbcClient jdbc;
    private final Clock clock;

    Methods(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    record Method(String id, String label) {}

    /** What was charged; not paid = it was refused. */
    record Charge(String id, String email, BigDecimal amount, String about, boolean paid) {

        String shownAmount() {
            return "€" + amount.toPlainString();
        }
    }

    void keep(String email) {
        jdbc.sql("insert into method (email, id, label) values (?, ?, ?) on conflict do nothing")
                .params(
                        email,
                        "method-" + Integer.toHexString(email.hashCode()) + "-" + email.length(),
                        "card ending %04d".formatted(Math.floorMod(email.hashCode(), 10_000)))
                .update();
    }

    List<Method> of(String email) {
        return jdbc.sql("select id, label from method where email = ?")
                .param(email)
                .query((row, at) -> new Method(row.getString("id"), row.getString("label")))
                .list();
    }

    void set(String email, boolean works) {
        jdbc.sql("update method set works = ? where email = ?")
                .params(works, email)
                .update();
    }

    List<Charge> latest() {
        return jdbc.sql("select * from charge order by charged_at desc limit 10")
                .query((row, at) -> charge(row))
                .list();
    }

    /**
     * The same key again charges nothing again.
     *
     * @return none = there is no such method
     */
    @Transactional
    public Optional<Charge> charge(String key, String email, String method, BigDecimal amount, String about) {
        var works = jdbc.sql("select works from method where email = ? and id = ? for update")
                .params(email, method)
                .query(Boolean.class)
                .optional();
        if (works.isEmpty()) {
            return Optional.empty();
        }
        jdbc.sql("""
                        insert into charge (key, id, email, amount, about, paid, charged_at)
                        values (?, 'charge ' || nextval('charge_number'), ?, ?, ?, ?, ?) on conflict do nothing""")
                .params(key, email, amount, about, works.get(), clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        return jdbc.sql("select * from charge where key = ?")
                .param(key)
                .query((row, at) -> charge(row))
                .optional();
    }

    private static Charge charge(ResultSet row) throws SQLException {
        return new Charge(
                row.getString("id"),
                row.getString("email"),
                row.getBigDecimal("amount"),
                row.getString("about"),
                row.getBoolean("paid"));
    }
}
