package yoru.standins.community;

import java.net.URI;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.StreamSupport;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.standins.Standins;
import yoru.standins.practice.Manners;

/**
 * SCIM 2.0 as far as a community needs it: Users, Groups, and Areas as a resource type of their own (RFC 7643, 6). Of
 * filters it knows {@code userName eq "…"} and refuses others as RFC 7644, 3.4.2.2 allows.
 */
@RestController
@Profile("community")
@RequestMapping("/scim")
class ScimApi {

    private static final MediaType SCIM = MediaType.valueOf("application/scim+json");
    private static final String CORE = "urn:ietf:params:scim:schemas:core:2.0:";
    private static final String MESSAGES = "urn:ietf:params:scim:api:messages:2.0:";
    private static final Pattern BY_NAME = Pattern.compile("userName eq (\".*\")", Pattern.CASE_INSENSITIVE);
    private static final Pattern ONE_MEMBER = Pattern.compile("members\\[value eq (\".*\")]", Pattern.CASE_INSENSITIVE);
    private static final int MOST = 200;

    private final Members members;
    private final CommunitySettings settings;
    private final Manners manners;
    private final JsonMapper json;

    ScimApi(Members members, CommunitySettings settings, Manners manners, JsonMapper json) {
        this.members = members;
        this.settings = settings;
        this.manners = manners;
        this.json = json;
    }

    @GetMapping("/ServiceProviderConfig")
    ResponseEntity<Object> config(@RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        return answer(Map.of(
                "schemas", List.of(CORE + "ServiceProviderConfig"),
                "patch", Map.of("supported", true),
                "bulk", Map.of("supported", false, "maxOperations", 0, "maxPayloadSize", 0),
                "filter", Map.of("supported", true, "maxResults", MOST),
                "changePassword", Map.of("supported", false),
                "sort", Map.of("supported", false),
                "etag", Map.of("supported", false),
                "authenticationSchemes", List.of()));
    }

    @GetMapping("/ResourceTypes")
    ResponseEntity<Object> types(@RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        return list(
                List.of(
                        type("User", "Users", "User"),
                        type("Group", "Groups", "Group"),
                        type("Area", "Areas", "Group")),
                3,
                1);
    }

    private static Map<String, Object> type(String name, String endpoint, String schema) {
        return Map.of(
                "schemas",
                List.of(CORE + "ResourceType"),
                "id",
                name,
                "name",
                name,
                "endpoint",
                "/" + endpoint,
                "schema",
                CORE + schema);
    }

    @GetMapping("/Users")
    ResponseEntity<Object> users(
            @RequestParam(defaultValue = "") String filter,
            @RequestParam(defaultValue = "1") int startIndex,
            @RequestParam(defaultValue = "100") int count,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        if (filter.isEmpty()) {
            int start = Math.max(1, startIndex);
            var page = members.page(start, Math.clamp(count, 0, MOST));
            return list(page.stream().map(this::user).toList(), members.count(), start);
        }
        var name = BY_NAME.matcher(filter);
        if (!name.matches()) {
            return error(HttpStatus.BAD_REQUEST, "invalidFilter", "only userName eq is known here");
        }
        var found =
                members.named(quoted(name.group(1))).stream().map(this::user).toList();
        return list(found, found.size(), 1);
    }

    @PostMapping("/Users")
    ResponseEntity<Object> make(
            @RequestBody String body, @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        var wanted = json.readTree(body);
        var userName = wanted.path("userName").asString("");
        if (userName.isBlank()) {
            return error(HttpStatus.BAD_REQUEST, "invalidValue", "userName is needed");
        }
        var name = wanted.path("displayName")
                .asString(wanted.path("name").path("formatted").asString(userName));
        if (manners.now().forgetful()) {
            return ResponseEntity.status(HttpStatus.CREATED)
                    .contentType(SCIM)
                    .body(Map.of("id", "m-forgotten", "userName", userName));
        }
        return members.make(userName, name)
                .map(made -> ResponseEntity.created(URI.create("/scim/Users/" + made.id()))
                        .contentType(SCIM)
                        .<Object>body(user(made)))
                .orElseGet(() -> error(HttpStatus.CONFLICT, "uniqueness", "there is a user " + userName));
    }

    @GetMapping("/Users/{id}")
    ResponseEntity<Object> user(
            @PathVariable String id, @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        return members.member(id)
                .map(member -> answer(user(member)))
                .orElseGet(() -> error(HttpStatus.NOT_FOUND, "", "there is no user " + id));
    }

    /** Nobody is deleted here: Yoru never asks for it. */
    @DeleteMapping("/Users/{id}")
    ResponseEntity<Object> delete(@PathVariable String id) {
        return error(HttpStatus.NOT_IMPLEMENTED, "", "members are not deleted");
    }

    @GetMapping("/{kind:Groups|Areas}")
    ResponseEntity<Object> places(
            @PathVariable String kind,
            @RequestParam(defaultValue = "1") int startIndex,
            @RequestParam(defaultValue = "100") int count,
            @RequestParam(defaultValue = "") String excludedAttributes,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        var all = members.places(kind);
        int start = Math.max(1, startIndex);
        boolean withMembers = !excludedAttributes.contains("members");
        var page = all.stream()
                .skip(start - 1L)
                .limit(Math.clamp(count, 0, MOST))
                .map(place -> place(place, withMembers))
                .toList();
        return list(page, all.size(), start);
    }

    @GetMapping("/{kind:Groups|Areas}/{id}")
    ResponseEntity<Object> place(
            @PathVariable String kind,
            @PathVariable String id,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        return members.place(kind, id)
                .map(place -> answer(place(place, true)))
                .orElseGet(() -> error(HttpStatus.NOT_FOUND, "", "there is no " + kind + "/" + id));
    }

    /** Adds and removes members (RFC 7644, 3.5.2); nothing else of a group can be changed from outside. */
    @PatchMapping("/{kind:Groups|Areas}/{id}")
    ResponseEntity<Object> patch(
            @PathVariable String kind,
            @PathVariable String id,
            @RequestBody String body,
            @RequestHeader(name = "Authorization", defaultValue = "") String token) {
        Standins.letIn(token, settings.token());
        if (members.place(kind, id).isEmpty()) {
            return error(HttpStatus.NOT_FOUND, "", "there is no " + kind + "/" + id);
        }
        for (JsonNode operation : json.readTree(body).path("Operations")) {
            var path = operation.path("path").asString("");
            var one = ONE_MEMBER.matcher(path);
            switch (operation.path("op").asString("").toLowerCase(java.util.Locale.ROOT)) {
                case "add" -> {
                    var ids = StreamSupport.stream(operation.path("value").spliterator(), false)
                            .map(value -> value.path("value").asString(""))
                            .toList();
                    if (!path.equals("members")
                            || ids.stream().anyMatch(it -> members.member(it).isEmpty())) {
                        return error(HttpStatus.BAD_REQUEST, "invalidValue", "only members there are can be added");
                    }
                    if (!manners.now().forgetful()) {
                        ids.forEach(it -> members.join(id, it));
                    }
                }
                case "remove" -> {
                    if (!one.matches()) {
                        return error(HttpStatus.BAD_REQUEST, "invalidPath", "only members[value eq …] can be removed");
                    }
                    if (!manners.now().forgetful()) {
                        members.leave(id, quoted(one.group(1)));
                    }
                }
                default -> {
                    return error(HttpStatus.BAD_REQUEST, "invalidSyntax", "op is add or remove here");
                }
            }
        }
        return ResponseEntity.noContent().build();
    }

    /** A JSON string, as values are written in filters (RFC 7644, 3.4.2.2). */
    private String quoted(String text) {
        return json.readTree(text).stringValue();
    }

    private Map<String, Object> user(Members.Member member) {
        Map<String, Object> user = new LinkedHashMap<>();
        user.put("schemas", List.of(CORE + "User"));
        user.put("id", member.id());
        user.put("userName", member.userName());
        user.put("displayName", member.name());
        user.put("name", Map.of("formatted", member.name()));
        user.put("emails", List.of(Map.of("value", member.userName(), "primary", true)));
        user.put("active", member.active());
        user.put(
                "groups",
                members.placesOf(member.id()).stream()
                        .map(place -> Map.of(
                                "value",
                                place.id(),
                                "$ref",
                                "/scim/" + place.kind() + "/" + place.id(),
                                "display",
                                place.title(),
                                "type",
                                "direct"))
                        .toList());
        user.put("meta", meta("User", "/scim/Users/" + member.id()));
        return user;
    }

    private Map<String, Object> place(Members.MeetingPlace place, boolean withMembers) {
        Map<String, Object> shown = new LinkedHashMap<>();
        shown.put("schemas", List.of(CORE + "Group"));
        shown.put("id", place.id());
        shown.put("displayName", place.title());
        if (withMembers) {
            shown.put(
                    "members",
                    members.membersOf(place.id()).stream()
                            .map(member -> Map.of(
                                    "value", member.id(),
                                    "$ref", "/scim/Users/" + member.id(),
                                    "display", member.name()))
                            .toList());
        }
        shown.put(
                "meta",
                meta(place.kind().equals("Groups") ? "Group" : "Area", "/scim/" + place.kind() + "/" + place.id()));
        return shown;
    }

    private static Map<String, Object> meta(String type, String location) {
        return Map.of("resourceType", type, "location", location);
    }

    private static ResponseEntity<Object> list(List<?> resources, int total, int start) {
        return answer(Map.of(
                "schemas", List.of(MESSAGES + "ListResponse"),
                "totalResults", total,
                "startIndex", start,
                "itemsPerPage", resources.size(),
                "Resources", resources));
    }

    private static ResponseEntity<Object> answer(Object body) {
        return ResponseEntity.ok().contentType(SCIM).body(body);
    }

    /** RFC 7644, 3.12. */
    private static ResponseEntity<Object> error(HttpStatus status, String scimType, String detail) {
        Map<String, Object> error = new LinkedHashMap<>();
        error.put("schemas", List.of(MESSAGES + "Error"));
        error.put("status", String.valueOf(status.value()));
        if (!scimType.isEmpty()) {
            error.put("scimType", scimType);
        }
        error.put("detail", detail);
        return ResponseEntity.status(status).contentType(SCIM).body(error);
    }
}
