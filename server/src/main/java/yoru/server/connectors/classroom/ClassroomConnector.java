package yoru.server.connectors.classroom;

import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.findings.CourseState.Door;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.connectors.Answers;
import yoru.server.connectors.Showing;
import yoru.server.systems.Connector;
import yoru.server.systems.Listed;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Place;
import yoru.server.systems.Shown;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemClient;
import yoru.server.systems.SystemClient.Question;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** Speaks the enrolment API (docs/formats/enrolment-api.yaml): states what should be so, with an idempotency key. */
@Component
class ClassroomConnector implements Connector {

    private static final int PAGE = 500;

    private final SystemClient client;
    private final JsonMapper json;
    private final Showing showing;

    ClassroomConnector(SystemClient client, JsonMapper json) {
        this.client = client;
        this.json = json;
        this.showing = new Showing(client, json, "/api/doors");
    }

    @Override
    public SystemKind kind() {
        return SystemKind.CLASSROOM;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(
                Ability.ENROLMENT,
                Ability.SECTIONS,
                Ability.DOWNLOADS,
                Ability.CATALOGUE,
                Ability.LISTING,
                Ability.DOORS);
    }

    /** What the enrolment should be. */
    record Enrolment(String name, String state, @Nullable Instant until, boolean renews, int revision) {}

    @Override
    public String tell(Place place, Statement statement) {
        var question = question(statement).with(Map.of("Idempotency-Key", statement.key()));
        var answer = client.ask(place, question).orTrouble().json();
        if (!state(statement).equals(answer.path("state").asString(""))) {
            throw new TroubleException(Trouble.NOT_CONFIRMED, "answered, but did not confirm that it was done");
        }
        return statement.open() ? "enrolled" : "closed, progress kept";
    }

    @Override
    public String preview(Place place, Statement statement) {
        return question(statement).inWords(place);
    }

    private static String state(Statement statement) {
        return statement.open() ? "open" : "closed";
    }

    private Question question(Statement statement) {
        var body = json.writeValueAsString(new Enrolment(
                statement.name(), state(statement), statement.until(), statement.renews(), statement.revision()));
        if (statement.matter() instanceof Matter.Access access) {
            switch (access.target()) {
                case Target.OfCourse it -> {
                    return Question.put(body, "/api/enrolments/{course}/{learner}", it.course(), statement.person());
                }
                case Target.OfSection it -> {
                    return Question.put(
                            body,
                            "/api/enrolments/{course}/{learner}/sections/{section}",
                            it.course(),
                            statement.person(),
                            it.section());
                }
                case Target.OfDownload it -> {
                    return Question.put(body, "/api/downloads/{download}/{learner}", it.download(), statement.person());
                }
                case Target.OfGroup _, Target.OfArea _, Target.OfTag _, Target.OfList _, Target.OfLevel _ -> {}
            }
        }
        throw new IllegalArgumentException("a classroom cannot be told about " + statement.matter());
    }

    @Override
    public String show(Place place, String path, @Nullable Shown shown, String key) {
        return showing.tell(place, path, shown, key);
    }

    @Override
    public Map<String, JsonNode> shown(Place place) {
        return showing.read(place);
    }

    @Override
    public List<Listed> catalogue(Place place) {
        var answer = read(place);
        var all = new ArrayList<>(Answers.each(answer, "courses", ClassroomConnector::course));
        if (answer.has("downloads")) {
            all.addAll(Answers.each(
                    answer,
                    "downloads",
                    node -> new Listed(
                            ItemKind.DOWNLOAD, Answers.text(node, "id"), Answers.text(node, "title"), "", null)));
        }
        return all;
    }

    @Override
    public Sample sample(Place place) {
        return Answers.first(read(place), "courses", "one course");
    }

    @Override
    public Part list(Place place, @Nullable String from) {
        var answer = client.ask(
                        place,
                        Question.get("/api/enrolments?after={after}&limit={limit}", from == null ? "" : from, PAGE))
                .orTrouble()
                .json();
        var found = new ArrayList<Found>();
        for (JsonNode node : Answers.each(answer, "enrolments", it -> it)) {
            if (Answers.text(node, "state").equals("open")) {
                found.add(new Found(Answers.text(node, "learner"), target(node), until(node), true));
            }
        }
        var next = answer.path("next").asString("");
        return new Part(found, next.isEmpty() ? null : next);
    }

    private static Target target(JsonNode node) {
        if (node.has("download")) {
            return new Target.OfDownload(Answers.text(node, "download"));
        }
        var course = Answers.text(node, "course");
        return node.has("section")
                ? new Target.OfSection(course, Answers.text(node, "section"))
                : new Target.OfCourse(course);
    }

    private static @Nullable Instant until(JsonNode node) {
        var text = node.path("until").asString("");
        try {
            return text.isEmpty() ? null : Instant.parse(text);
        } catch (DateTimeException e) {
            throw Answers.unreadable("a time that is none: " + text);
        }
    }

    private JsonNode read(Place place) {
        return client.ask(place, Question.get("/catalogue")).orTrouble().json();
    }

    private static Listed course(JsonNode node) {
        var sections = Answers.each(
                node,
                "sections",
                section -> new Listed.Section(
                        Answers.text(section, "id"), Answers.text(section, "title"), Answers.text(section, "tier")));
        var door = switch (Answers.text(node, "door")) {
            case "by-enrolment" -> Door.YORU_ONLY;
            case "free-sign-up" -> Door.FREE_SIGN_UP;
            case "open-to-all" -> Door.OPEN_TO_ALL;
            default -> throw Answers.unreadable("a door that is none");
        };
        var details = new Listed.CourseDetails(
                node.path("content").asBoolean(false),
                node.path("published").asBoolean(false),
                door,
                node.path("soldHere").asBoolean(false),
                Answers.link(node, "page"),
                sections);
        return new Listed(
                ItemKind.COURSE,
                Answers.text(node, "id"),
                Answers.text(node, "title"),
                Answers.text(node, "category"),
                details);
    }
}
