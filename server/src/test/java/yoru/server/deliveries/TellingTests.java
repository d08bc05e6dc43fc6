package yoru.server.deliveries;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

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
import org.springframework.dao.DataAccessResourceFailureException;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.policies.Policies;
import yoru.core.rulebook.Target;
import yoru.core.systems.Matter;
import yoru.server.ledger.Person;
import yoru.server.platform.YoruSettings;
import yoru.server.policies.SchoolPolicies;
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

    private final Lanes lanes = mock();
    private final Answers answers = mock();
    private final Connections connections = mock();
    private final Connectors connectors = mock();
    private final Connector connector = mock();
    private final Gates gates = new Gates(settings(), Clock.systemUTC());
    private final SchoolPolicies policies = mock();
    private final Telling telling = new Telling(
            lanes, answers, connections, connectors, gates, policies, JsonMapper.shared(), Clock.systemUTC());

    private static YoruSettings settings() {
        var second = Duration.ofSeconds(1);
        YoruSettings settings = mock();
        when(settings.delivery())
                .thenReturn(new YoruSettings.Delivery(second, second, second, second, second, second, AT_ONCE));
        return settings;
    }

    @BeforeEach
    void twoThingsAreToBeSaid() {
        when(policies.inForce()).thenReturn(Policies.DEFAULT);
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
        when(lanes.claim(LANE))
                .thenAnswer(call -> Optional.of(new Lanes.Claimed(person, List.of(delivery("a"), delivery("b")))));
    }

    private static Delivery delivery(String course) {
        var delivery = new Delivery(
                LANE.connection(), LANE.person(), new Matter.Access(new Target.OfCourse(course)), 0, Instant.now());
        delivery.id = (long) course.charAt(0);
        return delivery;
    }

    @Test
    void whereALaneCannotBeHeldItsPlaceIsGivenBack() {
        when(answers.note(any())).thenReturn(Optional.empty());
        doThrow(new DataAccessResourceFailureException("away")).when(lanes).hold(LANE);
        IntStream.range(0, 3 * AT_ONCE)
                .forEach(n -> assertThatThrownBy(() -> telling.tell(LANE)).hasMessage("away"));
        assertThat(room()).isEqualTo(AT_ONCE);
    }

    @Test
    void whereAnAnswerCannotBeNotedItsPlaceIsGivenBackOnce() {
        when(answers.note(any())).thenThrow(new DataAccessResourceFailureException("away"));
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
