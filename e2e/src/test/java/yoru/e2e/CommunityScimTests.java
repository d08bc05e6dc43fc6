package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.unboundid.scim2.client.ScimService;
import com.unboundid.scim2.common.exceptions.ResourceConflictException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.types.GroupResource;
import com.unboundid.scim2.common.types.Member;
import com.unboundid.scim2.common.types.Name;
import com.unboundid.scim2.common.types.UserResource;
import jakarta.ws.rs.client.ClientBuilder;
import jakarta.ws.rs.client.ClientRequestFilter;
import java.util.UUID;
import java.util.stream.StreamSupport;
import org.glassfish.jersey.apache5.connector.Apache5ConnectorProvider;
import org.glassfish.jersey.client.ClientConfig;
import org.junit.jupiter.api.Test;
import yoru.e2e.School.Part;

/**
 * The practice community as the UnboundID SCIM 2 SDK's client sees it. What Yoru's connector is tested against is
 * thereby tested against somebody else.
 */
class CommunityScimTests {

    private final School school = School.running();

    @Test
    void theSdksOwnClientGetsAlongWithThePracticeCommunity() throws ScimException {
        var scim = new ScimService(ClientBuilder.newClient(
                        new ClientConfig().connectorProvider(new Apache5ConnectorProvider()))
                .register((ClientRequestFilter) request ->
                        request.getHeaders().add("Authorization", "Bearer " + school.setting("YORU_COMMUNITY_TOKEN")))
                .target(school.address(Part.COMMUNITY) + "/scim"));
        assertThat(scim.getServiceProviderConfig().getPatch().isSupported()).isTrue();
        assertThat(StreamSupport.stream(scim.getResourceTypes().spliterator(), false))
                .extracting(type -> type.getName() + " " + type.getSchema())
                .contains("Area urn:ietf:params:scim:schemas:core:2.0:Group");

        var userName = "sdk-" + UUID.randomUUID() + "@post.example";
        var wanted =
                new UserResource().setUserName(userName).setDisplayName("Sdk").setName(new Name().setFormatted("Sdk"));
        var made = scim.create("Users", wanted);
        assertThat(made.getId()).isNotBlank();
        assertThatThrownBy(() -> scim.create("Users", wanted)).isInstanceOf(ResourceConflictException.class);
        assertThat(scim.retrieve("Users", made.getId(), UserResource.class).getUserName())
                .isEqualTo(userName);

        scim.modifyRequest("Groups", "study-circle")
                .addValues("members", new Member().setValue(made.getId()))
                .invoke(GroupResource.class);
        var found = scim.searchRequest("Users")
                .filter(Filter.eq("userName", userName))
                .invoke(UserResource.class);
        assertThat(found.getTotalResults()).isEqualTo(1);
        assertThat(found.getResources().getFirst().getGroups())
                .extracting(group -> group.getValue())
                .containsExactly("study-circle");
        assertThat(scim.retrieve("Groups", "study-circle", GroupResource.class).getMembers())
                .extracting(Member::getValue)
                .contains(made.getId());
        scim.modifyRequest("Groups", "study-circle")
                .removeValues("members[" + Filter.eq("value", made.getId()) + "]")
                .invoke(GroupResource.class);
        assertThat(scim.retrieve("Users", made.getId(), UserResource.class).getGroups())
                .isNullOrEmpty();
        assertThatThrownBy(
                        () -> scim.searchRequest("Users").filter("nickName pr").invoke(UserResource.class))
                .isInstanceOf(ScimException.class);
    }
}
