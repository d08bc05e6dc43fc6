package yoru.server.doors;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.random.RandomGenerator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.doors.Doors;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.server.ledger.LostTime;
import yoru.server.platform.Queue;
import yoru.server.platform.RetryPauses;
import yoru.server.platform.YoruSettings;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connectors;
import yoru.server.systems.Landscapes;
import yoru.server.systems.Listed;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Shown;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** Has the systems show at doors and after buying what the rulebook says, and sees whether they do. */
@Service
public class Signs {

    static final TaskDescriptor<Void> TELL = TaskDescriptor.of("show-signs");

    private static final Logger LOG = LoggerFactory.getLogger(Signs.class);

    private final ShownSigns table;
    private final Notices notices;
    private final SchoolDoors doors;
    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final Landscapes landscapes;
    private final Connections connections;
    private final Connectors connectors;
    private final Queue queue;
    private final LostTime lost;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final RetryPauses pauses;
    private final Clock clock;

    Signs(
            ShownSigns table,
            Notices notices,
            SchoolDoors doors,
            Rulebooks rulebooks,
            Catalogue catalogue,
            Landscapes landscapes,
            Connections connections,
            Connectors connectors,
            Queue queue,
            LostTime lost,
            JsonMapper json,
            TransactionTemplate transaction,
            YoruSettings settings,
            Clock clock) {
        this.table = table;
        this.notices = notices;
        this.doors = doors;
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
        this.landscapes = landscapes;
        this.connections = connections;
        this.connectors = connectors;
        this.queue = queue;
        this.lost = lost;
        this.json = json;
        this.transaction = transaction;
        this.clock = clock;
        var delivery = settings.delivery();
        this.pauses = new RetryPauses(delivery.firstPause(), delivery.longestPause(), delivery.giveUpAfter());
    }

    /** Sees what each system is to show now, and has those told that are to show something else than before. */
    @Transactional
    public void refresh() {
        table.lockAll();
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        var now = doors.under(rulebook);
        connections.all().stream().filter(Connection::isOn).forEach(connection -> refresh(connection, rulebook, now));
    }

    private void refresh(Connection connection, Rulebook rulebook, Doors now) {
        var abilities = connectors.abilities(connection);
        if (!abilities.contains(Ability.DOORS) && !abilities.contains(Ability.AFTER)) {
            return;
        }
        var wanted = wanted(connection, rulebook, now);
        Map<String, ShownSign> known =
                table.of(connection.id()).stream().collect(Collectors.toMap(it -> it.id.place(), Function.identity()));
        boolean news = false;
        for (var entry : wanted.entrySet()) {
            var sign = Optional.ofNullable(known.remove(entry.getKey()))
                    .orElseGet(() ->
                            new ShownSign(new ShownSign.Id(connection.id(), entry.getKey()), lost.revisionsBefore()));
            var content = json.valueToTree(entry.getValue());
            if (sign.wanted == null || !json.readTree(sign.wanted).equals(content)) {
                sign.want(content.toString());
                table.save(sign);
                news = true;
            }
        }
        for (ShownSign gone : known.values()) {
            if (gone.wanted != null) {
                gone.want(null);
                news = true;
            }
        }
        table.flush();
        if (news || !table.waiting(connection.id()).isEmpty()) {
            queue.now(TELL, connection.id());
        }
    }

    private Map<String, Shown> wanted(Connection connection, Rulebook rulebook, Doors now) {
        return connectors.abilities(connection).contains(Ability.DOORS)
                ? notices.atDoors(now, rulebook, course -> teaches(connection, course.id()))
                : notices.afterBuying(
                        now,
                        rulebook,
                        product -> catalogue
                                .title(connection.id(), new Listed.Thing(ItemKind.PRODUCT, product.id()))
                                .isPresent());
    }

    private boolean teaches(Connection connection, String course) {
        return landscapes.current().holdersOf(new Target.OfCourse(course)).stream()
                .anyMatch(system -> system.id().equals(connection.id()));
    }

    /** Tells a system what waits for it. @return when to go on; none = nothing waits */
    Optional<Instant> tell(String id) {
        var connection = connections.find(id).filter(Connection::isOn);
        if (connection.isEmpty()) {
            return Optional.empty();
        }
        for (ShownSign sign : table.waiting(id)) {
            if (sign.nextTryAt != null && sign.nextTryAt.isAfter(clock.instant())) {
                return Optional.of(sign.nextTryAt);
            }
            var trouble = tell(connection.get(), sign);
            if (trouble != null && trouble.isOfTheSystem()) {
                return table.findById(sign.id).flatMap(it -> Optional.ofNullable(it.nextTryAt));
            }
        }
        return table.waiting(id).stream()
                .map(sign -> Optional.ofNullable(sign.nextTryAt).orElseGet(clock::instant))
                .min(Instant::compareTo);
    }

    private @Nullable Trouble tell(Connection connection, ShownSign sign) {
        try {
            var shown = sign.wanted == null ? null : read(connection, sign.wanted);
            var said =
                    connectors.of(connection).show(connections.place(connection), sign.id.place(), shown, sign.key());
            answered(sign, said, null);
            return null;
        } catch (TroubleException e) {
            answered(sign, e.words(), e);
            return e.trouble();
        } catch (RuntimeException e) {
            LOG.error("A fault of Yoru's own while {} was to show {}", connection.id(), sign.id.place(), e);
            var trouble = new TroubleException(Trouble.NOT_CONFIRMED, "could not be told, for a fault of Yoru's own");
            answered(sign, trouble.words(), trouble);
            return trouble.trouble();
        }
    }

    private Shown read(Connection connection, String content) {
        return connectors.abilities(connection).contains(Ability.DOORS)
                ? json.readValue(content, Shown.AtDoor.class)
                : json.readValue(content, Shown.AfterBuying.class);
    }

    private void answered(ShownSign told, String words, @Nullable TroubleException trouble) {
        transaction.executeWithoutResult(status -> {
            table.lockAll();
            var sign = table.findById(told.id).orElseThrow();
            if (sign.revision != told.revision) {
                return; // something else is wanted meanwhile
            }
            sign.answer = words;
            sign.answeredAt = clock.instant();
            sign.attempts++;
            if (trouble == null) {
                sign.state = ShownSign.State.SHOWN;
                sign.nextTryAt = null;
                if (sign.wanted == null) {
                    table.delete(sign);
                }
            } else if (trouble.trouble() == Trouble.REFUSED) {
                sign.state = ShownSign.State.REFUSED;
            } else {
                var now = clock.instant();
                // it fails as of now: a state is told without end
                sign.nextTryAt = pauses.next(
                                sign.attempts, now, now, trouble.retryAfter(), RandomGenerator.getDefault())
                        .orElseGet(() -> now.plus(pauses.longest()));
            }
        });
    }

    /** Looks at what the systems show; what differs from what they were told is out of step. */
    public void compareAll() {
        connections.all().stream().filter(Connection::isOn).forEach(connection -> compare(connection.id()));
    }

    /** The same of one. */
    public void compare(String id) {
        var connection = connections.get(id);
        var before = whatIsToBeThere(id);
        if (before.isEmpty()) {
            return;
        }
        try {
            var shown = connectors.of(connection).shown(connections.place(connection));
            transaction.executeWithoutResult(status -> {
                table.lockAll();
                whatIsToBeThere(id).forEach((place, sign) -> {
                    var then = before.get(place);
                    // what was told anew while it was looked at says nothing
                    if (then != null && then.revision == sign.revision) {
                        sign.differs = !says(shown.get(place), json.readTree(Objects.requireNonNull(sign.wanted)));
                    }
                });
            });
        } catch (TroubleException e) {
            LOG.info("What {} shows could not be read: {}", id, e.words());
        }
    }

    /** What a system has said that it shows, by place. */
    private Map<String, ShownSign> whatIsToBeThere(String id) {
        return table.of(id).stream()
                .filter(sign -> sign.state == ShownSign.State.SHOWN && sign.wanted != null)
                .collect(Collectors.toMap(sign -> sign.id.place(), Function.identity()));
    }

    /** Whether everything that is wanted is there; what a system says besides is its own affair. */
    private static boolean says(@Nullable JsonNode found, JsonNode wanted) {
        return found != null
                && wanted.properties().stream()
                        .allMatch(entry -> entry.getValue().equals(found.get(entry.getKey())));
    }

    /** Has a system told again what is out of step there, or what it refused. */
    @Transactional
    public void tellAgain(String connection) {
        table.lockAll();
        var again = table.of(connection).stream()
                .filter(sign -> sign.differs || sign.state == ShownSign.State.REFUSED)
                .toList();
        again.forEach(ShownSign::startOver);
        if (!again.isEmpty()) {
            table.flush();
            queue.now(TELL, connection);
        }
    }

    /**
     * That a system does not show what it should.
     *
     * @param says what it answered last
     */
    public record ShownOtherwise(
            String connection,
            String system,
            int places,
            @Nullable String says) {}

    /** The systems that are on and show something else, or took something not. */
    @Transactional(readOnly = true)
    public List<ShownOtherwise> otherwise() {
        return table.otherwise().stream()
                .map(row -> new ShownOtherwise(
                        row.getConnection(), connections.title(row.getConnection()), row.getPlaces(), row.getSays()))
                .toList();
    }

    /**
     * What a system shows at a place.
     *
     * @param differs whether it showed something else when it was last looked at
     */
    public record SignShown(
            String place,
            String title,
            ShownSign.State state,
            boolean differs,
            @Nullable String answer,
            @Nullable Instant answeredAt) {}

    @Transactional(readOnly = true)
    public List<SignShown> of(String connection) {
        var rulebook = rulebooks.overTodaysCatalogue().rulebook();
        return table.of(connection).stream()
                .map(sign -> new SignShown(
                        sign.id.place(),
                        rulebook.titleOfPlace(sign.id.place()),
                        sign.state,
                        sign.differs,
                        sign.answer,
                        sign.answeredAt))
                .toList();
    }
}
