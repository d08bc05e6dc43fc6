package yoru.bench;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Collectors;
import org.postgresql.PGConnection;
import yoru.core.access.Engine;
import yoru.core.followup.Followups;
import yoru.core.impact.Impact;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;
import yoru.core.ledger.Mention;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Starts;
import yoru.formats.FactReader;
import yoru.formats.FactWriter;

/**
 * 100,000 people and 1,000,000 facts in PostgreSQL: reading the rows and nothing else, evaluating everybody from the same
 * rows, previewing a change of one link that concerns about one in twenty, and evaluating
 * everybody with what twelve follow-ups do. Three rounds; the last one counts.
 */
final class WholeSchool {

    private static final int PEOPLE = Integer.getInteger("yoru.people", 100_000);
    private static final int FACTS = 10;
    private static final int BATCH = 500;
    private static final String ROWS = "select subject, body::text from fact order by subject";

    private final String address;
    private final String password;

    private WholeSchool(String address, String password) {
        this.address = address;
        this.password = password;
    }

    /** Facts of some people, read as text. */
    private interface Work {
        long on(List<List<byte[]>> people);
    }

    public static void main(String[] args) throws Exception {
        new WholeSchool(args[0], args[1]).run();
    }

    private void run() throws Exception {
        fill();
        var before = School.rulebook();
        var after = oneLinkLonger(before);
        var engine = new Engine(before);
        var followups = new Followups(School.withFollowups());
        for (int round = 1; round <= 3; round++) {
            var streamed = System.nanoTime();
            long rows = stream();
            var evaluated = System.nanoTime();
            long windows = over(ROWS, people -> {
                long found = 0;
                for (var facts : people) {
                    found += engine.access(histories(facts), School.AS_OF).size();
                }
                return found;
            });
            var previewed = System.nanoTime();
            var impact = new Impact(before, after);
            long changes = over(concerning(impact), people -> {
                long found = 0;
                for (var facts : people) {
                    for (var history : histories(facts).all()) {
                        found += impact.over(history, School.AS_OF).size();
                    }
                }
                return found;
            });
            var end = System.nanoTime();
            long windowsWith = over(ROWS, people -> {
                long found = 0;
                for (var facts : people) {
                    var with = followups.with(ledger(facts), School.AS_OF).asOf(School.AS_OF);
                    found += engine.access(Histories.of(with), School.AS_OF).size();
                }
                return found;
            });
            var followed = System.nanoTime();
            say("round %d".formatted(round));
            say("  rows streamed out of PostgreSQL      %,10d in %s".formatted(rows, seconds(evaluated - streamed)));
            say("  windows of everybody                 %,10d in %s, %.2f of streaming"
                    .formatted(
                            windows,
                            seconds(previewed - evaluated),
                            ratio(previewed - evaluated, evaluated - streamed)));
            say("  changes by a longer link of one product %,7d in %s, %.3f of everybody"
                    .formatted(changes, seconds(end - previewed), ratio(end - previewed, previewed - evaluated)));
            say("  the same with twelve follow-ups      %,10d in %s, %.2f of everybody's windows"
                    .formatted(windowsWith, seconds(followed - end), ratio(followed - end, previewed - evaluated)));
        }
    }

    private static double ratio(long one, long other) {
        return one / (double) other;
    }

    private static Histories histories(List<byte[]> facts) {
        return Histories.of(ledger(facts).asOf(School.AS_OF));
    }

    private static Ledger ledger(List<byte[]> facts) {
        List<Fact> read = new ArrayList<>(facts.size());
        for (byte[] fact : facts) {
            read.add(FactReader.read(fact));
        }
        return Ledger.of(read);
    }

    private static Rulebook oneLinkLonger(Rulebook rulebook) {
        return rulebook.withLinks(rulebook.links().stream()
                .map(link -> link.id().equals("L3")
                        ? new Link(
                                link.id(),
                                link.from(),
                                link.to(),
                                link.terms().with(new Starts.After(Period.ofDays(1))))
                        : link)
                .toList());
    }

    private static String concerning(Impact impact) {
        var mentions = impact.concern().mentions().stream()
                .map(Mention::key)
                .map(key -> '"' + key + '"')
                .collect(Collectors.joining(",", "{", "}"));
        return """
                select subject, body::text from fact
                where subject = any (array(select distinct subject from fact where mentions && '%s'::text[]))
                order by subject""".formatted(mentions);
    }

    private void fill() throws SQLException, IOException {
        try (var connection = connect()) {
            try (var statement = connection.createStatement()) {
                statement.execute("drop table if exists fact");
                statement.execute(
                        "create table fact (subject text not null, mentions text[] not null, body jsonb not null)");
            }
            var copy = connection.unwrap(PGConnection.class).getCopyAPI();
            for (int from = 0; from < PEOPLE; from += 5_000) {
                var rows = new StringBuilder();
                for (int person = from; person < Math.min(PEOPLE, from + 5_000); person++) {
                    School.person(person, FACTS).forEach(fact -> row(fact, rows));
                }
                copy.copyIn(
                        "copy fact from stdin",
                        new ByteArrayInputStream(rows.toString().getBytes(StandardCharsets.UTF_8)));
            }
            try (var statement = connection.createStatement()) {
                statement.execute("create index on fact (subject)");
                statement.execute("create index on fact using gin (mentions)");
                statement.execute("vacuum analyze fact");
            }
        }
    }

    private static void row(Fact fact, StringBuilder rows) {
        var mentions = Mention.in(fact.happening()).stream()
                .map(mention -> "\"" + mention.key() + "\"")
                .collect(Collectors.joining(",", "{", "}"));
        rows.append(fact.subject())
                .append('\t')
                .append(mentions)
                .append('\t')
                .append(FactWriter.write(fact))
                .append('\n');
    }

    /** Reads every row and does nothing with it. */
    private long stream() throws SQLException {
        long rows = 0;
        try (var connection = connect();
                var statement = connection.prepareStatement(ROWS)) {
            connection.setAutoCommit(false); // or the driver reads all rows before it gives the first
            statement.setFetchSize(5_000);
            try (ResultSet result = statement.executeQuery()) {
                while (result.next()) {
                    rows += result.getString(1).isEmpty() || result.getBytes(2).length == 0 ? 0 : 1;
                }
            }
        }
        return rows;
    }

    /** The same rows person by person, worked on by as many threads as there are processors. */
    private long over(String query, Work work) throws SQLException, InterruptedException, ExecutionException {
        int threads = Runtime.getRuntime().availableProcessors();
        BlockingQueue<List<List<byte[]>>> batches = new ArrayBlockingQueue<>(threads * 4);
        long found = 0;
        try (var workers = Executors.newFixedThreadPool(threads)) {
            var results = new ArrayList<Future<Long>>();
            for (int n = 0; n < threads; n++) {
                results.add(workers.submit(() -> {
                    long mine = 0;
                    for (var batch = batches.take(); !batch.isEmpty(); batch = batches.take()) {
                        mine += work.on(batch);
                    }
                    return mine;
                }));
            }
            read(query, batches);
            for (int n = 0; n < threads; n++) {
                batches.put(List.of());
            }
            for (var result : results) {
                found += result.get();
            }
        }
        return found;
    }

    private void read(String query, BlockingQueue<List<List<byte[]>>> batches)
            throws SQLException, InterruptedException {
        try (var connection = connect();
                var statement = connection.prepareStatement(query)) {
            connection.setAutoCommit(false); // or the driver reads all rows before it gives the first
            statement.setFetchSize(5_000);
            try (ResultSet result = statement.executeQuery()) {
                List<List<byte[]>> batch = new ArrayList<>();
                List<byte[]> person = new ArrayList<>();
                var subject = "";
                while (result.next()) {
                    var next = result.getString(1);
                    if (!next.equals(subject)) {
                        if (batch.size() == BATCH) {
                            batches.put(batch);
                            batch = new ArrayList<>();
                        }
                        person = new ArrayList<>();
                        batch.add(person);
                        subject = next;
                    }
                    person.add(result.getBytes(2));
                }
                if (!batch.isEmpty()) {
                    batches.put(batch);
                }
            }
        }
    }

    private Connection connect() throws SQLException {
        return DriverManager.getConnection(address, "yoru_admin", password);
    }

    private static String seconds(long nanos) {
        return String.format(Locale.ROOT, "%.1f s", Duration.ofNanos(nanos).toMillis() / 1000.0);
    }

    @SuppressWarnings("SystemOut")
    private static void say(String line) {
        System.out.println(line);
    }
}
