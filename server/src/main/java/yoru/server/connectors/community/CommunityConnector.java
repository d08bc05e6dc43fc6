package yoru.server.connectors.community;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.messages.PatchOperation;
import com.unboundid.scim2.common.messages.PatchRequest;
import com.unboundid.scim2.common.types.Email;
import com.unboundid.scim2.common.types.Member;
import com.unboundid.scim2.common.types.Name;
import com.unboundid.scim2.common.types.UserResource;
import com.unboundid.scim2.common.utils.JsonUtils;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.connectors.Answers;
import yoru.server.systems.Connector;
import yoru.server.systems.Listed;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemClient;
import yoru.server.systems.SystemClient.Question;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Speaks SCIM 2.0 (RFC 7643, RFC 7644): accounts are Users, groups are Groups, areas are a resource type of their own
 * at {@code /Areas} with the Group schema (RFC 7643, 6), if the system announces one.
 */
@Component
class CommunityConnector implements Connector {

    private static final MediaType SCIM = MediaType.valueOf("application/scim+json");
    private static final Map<String, String> ACCEPT = Map.of("Accept", "application/scim+json, application/json");
    private static final int PAGE = 100;
    /** More than any community has; a listing that goes on beyond it has lost its way. */
    private static final int MOST_USERS = 2_000_000;

    private final SystemClient client;

    CommunityConnector(SystemClient client) {
        this.client = client;
    }

    @Override
    public SystemKind kind() {
        return SystemKind.COMMUNITY;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(Ability.ACCOUNTS, Ability.GROUPS, Ability.AREAS, Ability.CATALOGUE, Ability.LISTING);
    }

    @Override
    public AddressForm addressForm() {
        return AddressForm.WEB_BASE;
    }

    @Override
    public String tell(Place place, Statement statement) {
        return statement.matter() instanceof Matter.Account ? account(place, statement) : membership(place, statement);
    }

    /** Whoever has an account is not made one. */
    @Override
    public String preview(Place place, Statement statement) {
        return question(statement, statement.person()).inWords(place);
    }

    /** @param user as the system calls the person */
    private static Question question(Statement statement, String user) {
        return switch (statement.matter()) {
            case Matter.Account _ -> making(statement);
            case Matter.Access(Target.OfGroup it) -> patch(statement, user, "/Groups/{id}", it.group());
            case Matter.Access(Target.OfArea it) -> patch(statement, user, "/Areas/{id}", it.area());
            case Matter.Access _, Matter.Field _, Matter.Letter _, Matter.Event _, Matter.Code _ ->
                throw new IllegalArgumentException("a community cannot be told about " + statement.matter());
        };
    }

    private static Question patch(Statement statement, String user, String path, String id) {
        return Question.put(written(new PatchRequest(operation(statement.open(), user))), path, id)
                .as(HttpMethod.PATCH, SCIM)
                .with(ACCEPT);
    }

    private String account(Place place, Statement statement) {
        if (userId(place, statement.person()).isPresent()) {
            return "has an account";
        }
        return make(place, statement).isPresent() ? "account made" : "has an account";
    }

    /** @return none where somebody else made it in between (RFC 7644, 3.3) */
    private Optional<String> make(Place place, Statement statement) {
        var reply = client.ask(place, making(statement));
        return reply.status() == 409
                ? Optional.empty()
                : Optional.of(Answers.text(reply.orTrouble().json(), "id"));
    }

    private static Question making(Statement statement) {
        var user = new UserResource()
                .setUserName(statement.person())
                .setDisplayName(statement.name())
                .setName(new Name().setFormatted(statement.name()))
                .setEmails(new Email().setValue(statement.person()).setPrimary(true))
                .setActive(true);
        return Question.post(written(user), "/Users").as(HttpMethod.POST, SCIM).with(ACCEPT);
    }

    /** An account that was there and is no longer is made anew. */
    private String membership(Place place, Statement statement) {
        var known = userId(place, statement.person());
        if (known.isEmpty() && !statement.open()) {
            return "not in it";
        }
        var user = known.or(() -> make(place, statement))
                .orElseThrow(
                        () -> new TroubleException(Trouble.NOT_CONFIRMED, "has no account for " + statement.person()));
        client.ask(place, question(statement, user)).orTrouble();
        return statement.open() ? "in it" : "no longer in it";
    }

    private static PatchOperation operation(boolean open, String user) {
        try {
            return open
                    ? PatchOperation.add("members", JsonUtils.valueToNode(List.of(new Member().setValue(user))))
                    : PatchOperation.remove("members[" + equal("value", user) + "]");
        } catch (ScimException e) {
            throw new IllegalStateException(e);
        }
    }

    private Optional<String> userId(Place place, String person) {
        var answer = client.ask(
                        place,
                        Question.get("/Users?filter={filter}&attributes=userName", equal("userName", person))
                                .with(ACCEPT))
                .orTrouble()
                .json();
        return resources(answer).stream()
                .filter(user -> user.path("userName").asString("").equalsIgnoreCase(person))
                .map(user -> Answers.text(user, "id"))
                .findFirst();
    }

    /** RFC 7644, 3.4.2: where nothing is found the member Resources may be left out. */
    private static List<JsonNode> resources(JsonNode answer) {
        if (!answer.path("totalResults").isInt()) {
            throw Answers.unreadable("no number totalResults");
        }
        return answer.has("Resources") ? Answers.each(answer, "Resources", it -> it) : List.of();
    }

    @Override
    public List<Listed> catalogue(Place place) {
        var all = new ArrayList<>(listed(place, "/Groups", ItemKind.GROUP));
        var types = client.ask(place, Question.get("/ResourceTypes").with(ACCEPT))
                .orTrouble()
                .json();
        if (resources(types).stream()
                .anyMatch(type -> type.path("endpoint").asString("").endsWith("/Areas"))) {
            all.addAll(listed(place, "/Areas", ItemKind.AREA));
        }
        return all;
    }

    private List<Listed> listed(Place place, String path, ItemKind kind) {
        var all = new ArrayList<Listed>();
        for (int start = 1; start < MOST_USERS; ) {
            var page = resources(client.ask(
                            place,
                            Question.get(
                                            path + "?startIndex={start}&count={count}&excludedAttributes=members",
                                            start,
                                            PAGE)
                                    .with(ACCEPT))
                    .orTrouble()
                    .json());
            if (page.isEmpty()) {
                return all;
            }
            page.forEach(group ->
                    all.add(new Listed(kind, Answers.text(group, "id"), Answers.text(group, "displayName"), "", null)));
            start += page.size();
            if (all.size() > 10_000) {
                throw Answers.unreadable("a list of groups without end");
            }
        }
        return all;
    }

    @Override
    public Sample sample(Place place) {
        return Answers.first(users(place, 1, 1), "Resources", "one member");
    }

    @Override
    public Part list(Place place, @Nullable String from) {
        int start = from == null ? 1 : Integer.parseInt(from);
        var answer = users(place, start, PAGE);
        var users = resources(answer);
        var areas = users.stream().anyMatch(CommunityConnector::leavesOpenOfWhatSort) ? areas(place) : Set.<String>of();
        var found = new ArrayList<Found>();
        for (JsonNode user : users) {
            var person = Answers.text(user, "userName").toLowerCase(Locale.ROOT);
            if (user.has("groups")) {
                Answers.each(user, "groups", group -> target(group, areas))
                        .forEach(target -> found.add(new Found(person, target, null, false)));
            }
        }
        int next = start + users.size();
        if (next > MOST_USERS) {
            throw Answers.unreadable("a list of members without end");
        }
        boolean last = users.isEmpty() || next > answer.get("totalResults").intValue();
        return new Part(found, last ? null : String.valueOf(next));
    }

    private JsonNode users(Place place, int start, int count) {
        return client.ask(
                        place,
                        Question.get("/Users?startIndex={start}&count={count}&attributes=userName,groups", start, count)
                                .with(ACCEPT))
                .orTrouble()
                .json();
    }

    /** RFC 7643, 4.1.2: what a user is in, with its address as $ref, which may be left out. */
    private static Target target(JsonNode group, Set<String> areas) {
        var id = Answers.text(group, "value");
        return ref(group).contains("/Areas/") || (ref(group).isEmpty() && areas.contains(id))
                ? new Target.OfArea(id)
                : new Target.OfGroup(id);
    }

    private static String ref(JsonNode group) {
        return group.path("$ref").asString("");
    }

    private static boolean leavesOpenOfWhatSort(JsonNode user) {
        return user.path("groups").valueStream().anyMatch(group -> ref(group).isEmpty());
    }

    private Set<String> areas(Place place) {
        return catalogue(place).stream()
                .filter(it -> it.kind() == ItemKind.AREA)
                .map(Listed::id)
                .collect(Collectors.toSet());
    }

    /** The SDK quotes what needs quoting. */
    private static String equal(String attribute, String value) {
        try {
            return Filter.eq(attribute, value).toString();
        } catch (ScimException e) {
            throw new IllegalStateException(e);
        }
    }

    private static String written(Object resource) {
        try {
            return JsonUtils.getObjectWriter().writeValueAsString(resource);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }
}
