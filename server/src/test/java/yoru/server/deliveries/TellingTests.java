package yoru.server.deliveries;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import io.micrometer.core.instrument.simple.SimpleMeterRegistry;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.rulebook.Target;
import yoru.core.systems.Matter;
import yoru.server.journal.Journal;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.Place;
import yoru.server.systems.SystemKind;

/** A database that goes away in the middle of a lane takes no place at the system's gate with it, and gives none twice. */
class TellingTests {

    private static final int AT_ONCE = 4;
    private static final Lane LANE = new Lane("classroom", 1, 1);
    private static final Place PLACE = new Place(
            "classroom",
            "Classroom",
            SystemKind.CLASSROOM,
            "http://127.0.0.1:1",
            "token",
            List.of(),
            Map.of(Gates.PER_SECOND, "0"));

    private final DeliveryTable table = mock();
    private final Register register = mock();
    private final Connections connections = mock();
    private final Connectors connectors = mock();
    private final Connector connector = mock();
    private final Gates gates = new Gates(settings(), Clock.systemUTC());
    private final Telling telling = new Telling(
            table,
            connections,
            connectors,
            register,
            mock(Matters.class),
            mock(Journal.class),
            gates,
            new Meters(new SimpleMeterRegistry()),
            JsonMapper.shared(),
            new TransactionTemplate(mock(PlatformTransactionManager.class)),
            mock(Queue.class),
            mock(ApplicationEventPublisher.class),
            Clock.systemUTC(),
            settings());

    private static YoruSettings settings() {
        var second = Duration.ofSeconds(1);
        YoruSettings settings = mock();
        when(settings.delivery())
                .thenReturn(new YoruSettings.Delivery(second, second, second, second, second, second, AT_ONCE));
        return settings;
    }

    @BeforeEach
    void twoThingsAreToBeSaid() {
        Connection connection = mock();
        when(connection.isOn()).thenReturn(true);
        when(connection.id()).thenReturn(LANE.connection());
        when(connection.title()).thenReturn("Classroom");
        when(connections.find(LANE.connection())).thenReturn(Optional.of(connection));
        when(connections.place(connection)).thenReturn(PLACE);
        when(connectors.of(connection)).thenReturn(connector);
        when(connector.tell(any(), any())).thenReturn("enrolled");
        Person person = mock();
        when(person.key()).thenReturn("ada@post.example");
        when(person.name()).thenReturn("Ada");
        when(register.person(LANE.person())).thenReturn(Optional.of(person));
        when(table.version(anyString(), anyLong())).thenReturn(Optional.of(LANE.version()));
        when(table.claim(anyString(), anyLong(), anyInt(), any(), any())).thenReturn(1);
        when(table.waiting(anyString(), anyLong(), any())).thenAnswer(call -> List.of(delivery("a"), delivery("b")));
    }

    private static Delivery delivery(String course) {
        var delivery = new Delivery(
                LANE.connection(), LANE.person(), new Matter.Access(new Target.OfCourse(course)), Instant.now());
        delivery.id = (long) course.charAt(0);
        return delivery;
    }

    @Test
    void whereALaneCannotBeHeldItsPlaceIsGivenBack() {
        when(table.lock(anyLong())).thenAnswer(call -> Optional.of(delivery("a")));
        doThrow(new DataAccessResourceFailureException("away"))
                .when(table)
                .hold(anyString(), anyLong(), any(Instant.class));
        IntStream.range(0, 3 * AT_ONCE)
                .forEach(n -> assertThatThrownBy(() -> telling.tell(LANE)).hasMessage("away"));
        assertThat(room()).isEqualTo(AT_ONCE);
    }

    @Test
    void whereAnAnswerCannotBeNotedItsPlaceIsGivenBackOnce() {
        doThrow(new DataAccessResourceFailureException("away")).when(register).lock(anyLong());
        IntStream.range(0, 3 * AT_ONCE)
                .forEach(n -> assertThatThrownBy(() -> telling.tell(LANE)).hasMessage("away"));
        assertThat(room()).isEqualTo(AT_ONCE);
    }

    private int room() {
        var inside = new ArrayList<Gate.Permit>();
        while (gates.of(PLACE).enter(inside.size()) instanceof Gate.Permit permit) {
            inside.add(permit);
        }
        return inside.size();
    }
}
