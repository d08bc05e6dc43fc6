package yoru.server.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Period;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.util.List;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import yoru.server.TestDatabase;
import yoru.server.platform.YoruSettings;

/** On a real database, brought up from before there were months, with a line of then. */
class JournalMonthsTests {

    private final DriverManagerDataSource database = new DriverManagerDataSource(
            "jdbc:postgresql://127.0.0.1:" + TestDatabase.port() + "/" + TestDatabase.make(),
            "yoru_admin",
            TestDatabase.password());
    private final JdbcClient jdbc = JdbcClient.create(database);
    private final YearMonth now = YearMonth.from(LocalDate.now(ZoneOffset.UTC));

    @BeforeEach
    void bringUp() {
        Flyway.configure().dataSource(database).target("39").load().migrate();
        write("before there were months", now.atDay(1).minusYears(2));
        Flyway.configure().dataSource(database).load().migrate();
    }

    private void write(String title, LocalDate day) {
        jdbc.sql("insert into journal_entry (at, kind, title, said) values (?, 'YORU', ?, '')")
                .params(java.sql.Timestamp.from(day.atStartOfDay().toInstant(ZoneOffset.UTC)), title)
                .update();
    }

    private List<String> titles() {
        return jdbc.sql("select title from journal_entry order by id")
                .query(String.class)
                .list();
    }

    /** Mockito: a day long after this one. */
    private JournalMonths in(YearMonth month, Period keep) {
        Clock clock = mock();
        when(clock.instant()).thenReturn(Instant.parse(month.atDay(15) + "T12:00:00Z"));
        YoruSettings settings = mock();
        when(settings.keepJournal()).thenReturn(keep);
        return new JournalMonths(jdbc, settings, clock);
    }

    @Test
    void whatWasThereStaysAndMonthsFollow() {
        write("now", now.atDay(1));
        in(now, Period.ofYears(3)).keepUp();
        in(now, Period.ofYears(3)).keepUp();
        write("in two months", now.plusMonths(2).atDay(28));
        assertThat(titles()).containsExactly("before there were months", "now", "in two months");
        assertThat(jdbc.sql("select count(*) from journal_entry_otherwise")
                        .query(Integer.class)
                        .single())
                .isZero();
    }

    @Test
    void monthsThatAreTooOldGoAndNoOther() {
        in(now, Period.ofYears(3)).keepUp();
        write("this month", now.atDay(28));
        write("next month", now.plusMonths(1).atDay(1));
        write("while no server ran", now.plusMonths(7).atDay(1));
        in(now.plusMonths(13), Period.ofYears(1)).keepUp();
        assertThat(titles())
                .as("all until this month's end was one part")
                .containsExactly("next month", "while no server ran");
        in(now.plusMonths(30), Period.ofYears(1)).keepUp();
        assertThat(titles()).isEmpty();
        write("still somewhere", now.plusMonths(30).atDay(15));
        assertThat(titles()).containsExactly("still somewhere");
    }
}
