package yoru.server.journal;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Objects;
import java.util.regex.Pattern;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.platform.YoruSettings;

/**
 * The journal's months: each is a part of its table. The next ones are made before they begin, and those that are too old go
 * whole. The ledger is not touched by it.
 */
@Service
class JournalMonths {

    private static final int MADE_AHEAD = 2;

    /** Of one month, or of all until one began. */
    private static final Pattern NAME = Pattern.compile("journal_entry_(until_)?(\\d{4})_(\\d{2})");

    private final JdbcClient jdbc;
    private final YoruSettings settings;
    private final Clock clock;

    JournalMonths(JdbcClient jdbc, YoruSettings settings, Clock clock) {
        this.jdbc = jdbc;
        this.settings = settings;
        this.clock = clock;
    }

    @Configuration(proxyBeanMethods = false)
    static class Task {
        @Bean
        RecurringTask<Void> keepJournalByMonth(JournalMonths months) {
            return Tasks.recurring("journal-months", FixedDelay.of(Duration.ofHours(6)))
                    .execute((task, context) -> months.keepUp());
        }
    }

    @Transactional
    void keepUp() {
        var now = YearMonth.from(clock.instant().atOffset(ZoneOffset.UTC));
        for (int ahead = 1; ahead <= MADE_AHEAD; ahead++) {
            make(now.plusMonths(ahead));
        }
        var keep = settings.keepJournal();
        if (keep != null) {
            forgetBefore(now.minus(keep));
        }
    }

    private void make(YearMonth month) {
        run("create table if not exists journal_entry_%s partition of journal_entry for values from ('%s') to ('%s')"
                .formatted(inName(month), begin(month), begin(month.plusMonths(1))));
    }

    private static String inName(YearMonth month) {
        return "%d_%02d".formatted(month.getYear(), month.getMonthValue());
    }

    private static String begin(YearMonth month) {
        return month.atDay(1) + "T00:00:00Z";
    }

    private void forgetBefore(YearMonth first) {
        parts().stream().filter(part -> end(part).compareTo(first) <= 0).forEach(part -> run("drop table " + part));
        jdbc.sql("delete from journal_entry_otherwise where at < cast(:first as timestamptz)")
                .param("first", begin(first))
                .update();
    }

    private List<String> parts() {
        return jdbc
                .sql("select inhrelid::regclass::text from pg_inherits where inhparent = 'journal_entry'::regclass")
                .query(String.class)
                .list()
                .stream()
                .map(Objects::requireNonNull)
                .filter(NAME.asMatchPredicate())
                .toList();
    }

    /** The first month that is in it no more. */
    private static YearMonth end(String part) {
        var name = NAME.matcher(part);
        if (!name.matches()) {
            throw new IllegalArgumentException(part);
        }
        var month = YearMonth.of(Integer.parseInt(name.group(2)), Integer.parseInt(name.group(3)));
        return name.group(1) == null ? month.plusMonths(1) : month;
    }

    /** Made of months only. */
    private void run(String statement) {
        jdbc.sql(statement).update();
    }
}
