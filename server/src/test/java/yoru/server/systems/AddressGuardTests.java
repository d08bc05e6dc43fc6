package yoru.server.systems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.net.spi.InetAddressResolver;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Names that lead elsewhere the second time they are looked up (OWASP, "Server-Side Request Forgery Prevention"). */
class AddressGuardTests {

    private static final InetAddress OUTSIDE = InetAddress.ofLiteral("203.0.113.7"); // RFC 5737, for examples
    private static final InetAddress INSIDE = InetAddress.ofLiteral("127.0.0.1");
    private static final URI SHOP = URI.create("https://shop.example/orders");

    private List<InetAddress> said = List.of(OUTSIDE);
    private long seconds;

    private final CheckedNames names = new CheckedNames(new NameServer(), () -> seconds * 1_000_000_000);
    private final AddressGuard guard = new AddressGuard(List.of(), names);

    /** Says what it is told to. */
    private final class NameServer implements InetAddressResolver {

        @Override
        public Stream<InetAddress> lookupByName(String host, LookupPolicy policy) {
            return said.stream();
        }

        @Override
        public String lookupByAddress(byte[] address) {
            return "shop.example";
        }
    }

    private List<InetAddress> connectedTo(String host) throws UnknownHostException {
        return names.lookupByName(host, InetAddressResolver.LookupPolicy.of(InetAddressResolver.LookupPolicy.IPV4))
                .toList();
    }

    @Test
    void whoeverConnectsIsLedToWhatWasChecked() throws UnknownHostException {
        guard.check(SHOP);
        said = List.of(INSIDE);
        assertThat(connectedTo("Shop.Example")).containsExactly(OUTSIDE);
        seconds += 31;
        assertThat(connectedTo("shop.example")).as("by who has just asked").containsExactly(OUTSIDE);
        assertThatThrownBy(() -> guard.check(SHOP)).hasMessageContaining("inside Yoru's own network");
        seconds += 120;
        assertThat(connectedTo("shop.example")).as("nobody has asked for long").containsExactly(INSIDE);
    }

    @Test
    void oneAddressInsideIsEnough() {
        said = List.of(OUTSIDE, INSIDE);
        assertThatThrownBy(() -> guard.check(SHOP)).hasMessageContaining("inside Yoru's own network");
        assertThatThrownBy(() -> guard.check(SHOP)).as("and is not kept").hasMessageContaining("inside");
    }

    @Test
    void aNameThatMovesIsFollowed() throws UnknownHostException {
        guard.check(SHOP);
        var moved = InetAddress.ofLiteral("203.0.113.8");
        said = List.of(moved);
        seconds += 31;
        guard.check(SHOP);
        assertThat(connectedTo("shop.example")).containsExactly(moved);
    }

    /** Java asks {@link CheckedNames} for every name. */
    @Test
    void thisMachineLooksUpThroughIt() throws UnknownHostException {
        var installed = CheckedNames.ofThisMachine();
        assertThat(installed.lookUp("localhost", _ -> true)).isNotEmpty().allMatch(InetAddress::isLoopbackAddress);
        assertThat(InetAddress.getAllByName("localhost")).isNotEmpty();
    }
}
