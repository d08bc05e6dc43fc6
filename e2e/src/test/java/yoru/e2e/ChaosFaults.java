package yoru.e2e;

import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.BooleanSupplier;
import org.awaitility.core.ConditionTimeoutException;
import yoru.e2e.School.Part;

/** What can happen to a school's machines, one after the other; each ends before the next begins. */
final class ChaosFaults {

    /** PostgreSQL's, after which a server must be of use again. */
    static final Duration RECOVERED = Duration.ofSeconds(10);

    private static final List<Part> SERVERS = List.of(Part.SERVER, Part.SECOND);
    /** Longer than a server may be silent before the other takes over its work. */
    private static final Duration BEYOND_TAKING_OVER = Duration.ofSeconds(20);

    private static final Duration A_WHILE = Duration.ofSeconds(6);
    private static final List<String> MANNERS = List.of(
            "slowSeconds=1", "busy=true", "faultyOneIn=2", "down=true", "twice=true", "shuffled=true", "slowSeconds=3");

    enum Fault {
        /** Both, one after the other, as for an update. */
        SERVERS_RESTARTED_IN_TURN,
        SERVER_KILLED,
        SERVER_FROZEN,
        SYSTEM_KILLED,
        SYSTEM_FROZEN,
        DATABASE_STOPPED_AT_ONCE,
        DATABASE_CONNECTIONS_CUT,
        ANSWERS_CUT,
        SYSTEM_MISBEHAVES,
        SYSTEM_LIES,
        DISK_FULL,
        CLOCK_AN_HOUR_BACK
    }

    /** A slice for every run of the tests. */
    static final List<Fault> SOON_DONE = List.of(
            Fault.SERVER_KILLED, Fault.ANSWERS_CUT, Fault.DATABASE_STOPPED_AT_ONCE, Fault.SERVERS_RESTARTED_IN_TURN);

    private final School school;
    private final OwnCluster cluster;
    private final Map<Part, Wire> wires;
    private final Random random;
    private final Map<Fault, Integer> done = new EnumMap<>(Fault.class);
    private final List<Duration> recoveries = new ArrayList<>();
    private final List<Fault> possible;

    ChaosFaults(School school, OwnCluster cluster, Map<Part, Wire> wires, long seed) {
        this.school = school;
        this.cluster = cluster;
        this.wires = wires;
        this.random = new Random(seed);
        this.possible = Arrays.stream(Fault.values())
                .filter(fault -> fault != Fault.DISK_FULL || cluster.canBeFull())
                .filter(fault -> fault != Fault.CLOCK_AN_HOUR_BACK || fakeTime().isPresent())
                .toList();
    }

    /** How often each has happened. */
    Map<Fault, Integer> done() {
        return done;
    }

    /** How long after PostgreSQL each server was of use again. */
    List<Duration> recoveries() {
        return recoveries;
    }

    /** Each kind once before any comes again. */
    List<Fault> order(int many) {
        var order = new ArrayList<Fault>();
        while (order.size() < many) {
            var round = new ArrayList<>(possible);
            java.util.Collections.shuffle(round, random);
            order.addAll(round);
        }
        return order.subList(0, many);
    }

    void happens(Fault fault) {
        done.merge(fault, 1, Integer::sum);
        switch (fault) {
            case SERVERS_RESTARTED_IN_TURN ->
                SERVERS.forEach(server -> {
                    school.stop(server);
                    school.start(server);
                });
            case SERVER_KILLED -> {
                var server = one(SERVERS);
                school.kill(server);
                school.start(server);
            }
            case SERVER_FROZEN -> frozen(one(SERVERS), BEYOND_TAKING_OVER);
            case SYSTEM_KILLED -> {
                var system = one(List.of(Part.CLASSROOM, Part.CONTACTS, Part.COMMUNITY, Part.SHOP));
                school.kill(system);
                school.start(system);
            }
            case SYSTEM_FROZEN ->
                frozen(one(List.of(Part.CLASSROOM, Part.CONTACTS, Part.COMMUNITY, Part.SHOP, Part.MAILBOX)), A_WHILE);
            case DATABASE_STOPPED_AT_ONCE -> {
                cluster.stopAtOnce();
                lasts(A_WHILE);
                cluster.start();
                recovers();
            }
            case DATABASE_CONNECTIONS_CUT ->
                school.change(
                        Part.SERVER,
                        "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() and random() < 0.7");
            case ANSWERS_CUT -> {
                var wire = wires.get(one(List.copyOf(wires.keySet())));
                wire.cutAnswers(true);
                lasts(A_WHILE);
                wire.cutAnswers(false);
            }
            case SYSTEM_MISBEHAVES ->
                behaves(
                        one(List.of(Part.CLASSROOM, Part.CONTACTS, Part.COMMUNITY, Part.SHOP, Part.MAILBOX)),
                        one(MANNERS));
            // it lies about what nobody could know but by looking: only one that is looked at in the end
            case SYSTEM_LIES -> behaves(Part.COMMUNITY, "forgetful=true");
            case DISK_FULL -> {
                cluster.fill();
                lasts(A_WHILE);
                cluster.makeRoom();
                recovers();
            }
            case CLOCK_AN_HOUR_BACK -> {
                school.kill(Part.SECOND);
                school.startWith(
                        Part.SECOND,
                        Map.of(
                                "LD_PRELOAD",
                                fakeTime().orElseThrow().toString(),
                                "FAKETIME",
                                "-1h",
                                "DONT_FAKE_MONOTONIC",
                                "1",
                                "FAKETIME_DONT_FAKE_MONOTONIC",
                                "1",
                                // else whoever waits for a time waits for one that has passed, and turns in circles
                                "FAKETIME_FORCE_MONOTONIC_FIX",
                                "0"));
                lasts(BEYOND_TAKING_OVER);
            }
        }
    }

    private void frozen(Part part, Duration lasting) {
        school.freeze(part, true);
        lasts(lasting);
        school.freeze(part, false);
    }

    private void behaves(Part part, String form) {
        school.behave(part, form);
        lasts(A_WHILE);
        school.behave(part, "");
    }

    private void recovers() {
        long since = System.nanoTime();
        SERVERS.forEach(school::awaitReady);
        recoveries.add(Duration.ofNanos(System.nanoTime() - since));
    }

    /** A fault is a stretch of time: there is nothing else to wait for. */
    private static void lasts(Duration time) {
        BooleanSupplier never = () -> false;
        try {
            await().atMost(time).until(never::getAsBoolean);
        } catch (ConditionTimeoutException e) {
            // it has lasted
        }
    }

    private <T> T one(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    /** Debian's libfaketime, where it is installed. */
    private static Optional<Path> fakeTime() {
        return List.of("x86_64-linux-gnu", "aarch64-linux-gnu").stream()
                .map(machine -> Path.of("/usr/lib", machine, "faketime", "libfaketimeMT.so.1"))
                .filter(Files::exists)
                .findFirst();
    }
}
