package yoru.server.systems;

import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.util.List;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.security.web.util.matcher.IpAddressMatcher;
import org.springframework.stereotype.Component;
import yoru.server.platform.YoruSettings;

/**
 * Keeps Yoru from being sent to its own machine or into the network that it stands in, where an address from outside
 * has no business. The configuration can allow networks one by one. Asked again before every request, for a name can
 * lead elsewhere from one day to the next; what was found is what is connected to ({@link CheckedNames}).
 */
@Component
public class AddressGuard {

    /** Not reachable from outside, besides those that {@link InetAddress} itself can tell: RFC 6598, RFC 4193, RFC 1122. */
    private static final List<IpAddressMatcher> INSIDE = List.of(
            new IpAddressMatcher("100.64.0.0/10"),
            new IpAddressMatcher("fc00::/7"),
            new IpAddressMatcher("0.0.0.0/8"),
            new IpAddressMatcher("192.0.0.0/24"),
            new IpAddressMatcher("198.18.0.0/15"),
            new IpAddressMatcher("64:ff9b::/96"),
            // addresses of IPv4 in IPv6's clothes (RFC 3056, RFC 4380, RFC 8215), and what nobody has (RFC 1112)
            new IpAddressMatcher("2002::/16"),
            new IpAddressMatcher("2001::/32"),
            new IpAddressMatcher("64:ff9b:1::/48"),
            new IpAddressMatcher("192.88.99.0/24"),
            new IpAddressMatcher("240.0.0.0/4"));

    private final List<IpAddressMatcher> allowed;
    private final CheckedNames names;

    @Autowired
    AddressGuard(YoruSettings settings) {
        this(settings.insideAllowed(), CheckedNames.ofThisMachine());
    }

    AddressGuard(List<String> allowed, CheckedNames names) {
        this.allowed = allowed.stream().map(IpAddressMatcher::new).toList();
        this.names = names;
    }

    /** @throws TroubleException when the address leads nowhere or to where it must not */
    public void check(URI address) {
        var host = address.getHost();
        if (host == null) {
            throw new TroubleException(Trouble.AWAY, "has an address that cannot be read");
        }
        try {
            if (!names.lookUp(host, this::isRight).allMatch(this::isRight)) {
                throw new TroubleException(
                        Trouble.NOT_ALLOWED, "is at an address inside Yoru's own network (" + host + ")");
            }
        } catch (UnknownHostException e) {
            throw new TroubleException(Trouble.AWAY, "is not there (nobody knows the name " + host + ")");
        }
    }

    /** Whether what is sent there stays in networks that the configuration allows: nobody else is on its way. */
    public boolean staysInside(URI address) {
        var host = address.getHost();
        if (host == null) {
            return false;
        }
        try {
            return names.lookUp(host, this::isRight).allMatch(found -> found.isLoopbackAddress() || isAllowed(found));
        } catch (UnknownHostException e) {
            return false;
        }
    }

    private boolean isRight(InetAddress address) {
        return !isInside(address) || isAllowed(address);
    }

    private boolean isAllowed(InetAddress address) {
        return allowed.stream().anyMatch(network -> network.matches(address.getHostAddress()));
    }

    private static boolean isInside(InetAddress address) {
        return address.isLoopbackAddress()
                || address.isAnyLocalAddress()
                || address.isLinkLocalAddress()
                || address.isSiteLocalAddress()
                || address.isMulticastAddress()
                || INSIDE.stream().anyMatch(network -> network.matches(address.getHostAddress()));
    }
}
