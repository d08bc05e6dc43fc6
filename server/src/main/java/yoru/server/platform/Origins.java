package yoru.server.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Arrays;

/** Where requests come from, as they are counted against whoever guesses or asks too often. */
public final class Origins {

    /** Whoever has one IPv6 address has the others of its network (RFC 4291, 2.5.1: 64 bits are the interface's). */
    private static final int NETWORK_BYTES = 8;

    private Origins() {}

    /** What counts as one place: an IPv4 address, or a network of IPv6. */
    public static String place(String address) {
        if (address.indexOf(':') < 0) {
            return address;
        }
        try {
            var known = InetAddress.ofLiteral(address);
            if (!(known instanceof Inet6Address)) {
                return known.getHostAddress(); // IPv4, written as IPv6
            }
            var bytes = known.getAddress();
            Arrays.fill(bytes, NETWORK_BYTES, bytes.length, (byte) 0);
            return InetAddress.getByAddress(bytes).getHostAddress() + "/64";
        } catch (IllegalArgumentException | UnknownHostException _) {
            return address;
        }
    }

    static String place(HttpServletRequest request) {
        return place(String.valueOf(request.getRemoteAddr()));
    }
}
