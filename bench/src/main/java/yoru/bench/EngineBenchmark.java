package yoru.bench;

import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import yoru.core.access.Access;
import yoru.core.access.Engine;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Ledger;

/** People a second on one core, from facts in memory to windows with reasons. */
@State(Scope.Thread)
@BenchmarkMode(Mode.Throughput)
@OutputTimeUnit(TimeUnit.SECONDS)
@Fork(1)
@Warmup(iterations = 4, time = 2)
@Measurement(iterations = 5, time = 2)
public class EngineBenchmark {

    private static final int PEOPLE = 500;

    @Param({"5", "50", "500"})
    public int facts;

    private Engine engine;
    private List<List<Fact>> people;
    private int next;

    /** Makes the people. */
    @Setup
    public void people() {
        engine = new Engine(School.rulebook());
        people = IntStream.range(0, PEOPLE)
                .mapToObj(person -> School.person(person, facts))
                .toList();
    }

    /** One person. */
    @Benchmark
    public List<Access> onePerson() {
        next = (next + 1) % PEOPLE;
        return engine.access(Histories.of(Ledger.of(people.get(next)).asOf(School.AS_OF)), School.AS_OF);
    }
}
