package yoru.server.systems;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.net.spi.InetAddressResolver;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.LongSupplier;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Where names lead, as {@link AddressGuard} has found right: whoever connects right after it asked is led to the same
 * addresses, whatever the name's server says by then (OWASP, "DNS rebinding"). What nobody checks is looked up as ever.
 */
final class CheckedNames implements InetAddressResolver {

    /** After so long the guard looks a name up anew. */
    private static final long FRESH_NANOS = 30_000_000_000L;

    /** So long a checked answer is the one that counts: longer than it is fresh, so that it still is when one connects. */
    private static final long GOOD_NANOS = 4 * FRESH_NANOS;

    private static final int MOST = 10_000;

    /** This JVM's; none where Java has not been told of {@link CheckedNamesProvider}. */
    private static volatile Optional<CheckedNames> installed = Optional.empty();

    private record Checked(List<InetAddress> addresses, long at) {}

    private final InetAddressResolver others;
    private final LongSupplier nanos;
    private final Map<String, Checked> checked = new ConcurrentHashMap<>();

    CheckedNames(InetAddressResolver others, LongSupplier nanos) {
        this.others = others;
        this.nanos = nanos;
    }

    static CheckedNames install(InetAddressResolver builtin) {
        var names = new CheckedNames(builtin, System::nanoTime);
        installed = Optional.of(names);
        return names;
    }

    /** @throws IllegalStateException where Java looks names up otherwise, so that nothing could be promised */
    static CheckedNames ofThisMachine() {
        try {
            InetAddress.getAllByName("localhost"); // Java asks for its resolver only now
        } catch (UnknownHostException e) {
            throw new IllegalStateException(e);
        }
        return installed.orElseThrow(() -> new IllegalStateException("names are looked up by somebody else"));
    }

    /**
     * Where a name leads, of late or now; kept only where it is right.
     *
     * @param isRight whether it may be connected to
     */
    Stream<InetAddress> lookUp(String host, Predicate<InetAddress> isRight) throws UnknownHostException {
        var name = host.toLowerCase(Locale.ROOT);
        var known = checked.get(name);
        if (known != null && nanos.getAsLong() - known.at < FRESH_NANOS) {
            return known.addresses.stream();
        }
        // a number is no name: Java does not ask for it
        var found = isNumber(host)
                ? List.of(InetAddress.getAllByName(host))
                : others.lookupByName(host, LookupPolicy.of(LookupPolicy.IPV4 | LookupPolicy.IPV6))
                        .toList();
        if (found.stream().allMatch(isRight)) {
            forgetOld();
            checked.put(name, new Checked(found, nanos.getAsLong()));
        }
        return found.stream();
    }

    private static boolean isNumber(String host) {
        return host.startsWith("[") || host.matches("[0-9.]+") || host.contains(":");
    }

    private void forgetOld() {
        if (checked.size() >= MOST) {
            checked.values().removeIf(it -> nanos.getAsLong() - it.at > GOOD_NANOS);
        }
    }

    @Override
    public Stream<InetAddress> lookupByName(String host, LookupPolicy policy) throws UnknownHostException {
        var known = checked.get(host.toLowerCase(Locale.ROOT));
        return known != null && nanos.getAsLong() - known.at < GOOD_NANOS
                ? known.addresses.stream()
                : others.lookupByName(host, policy);
    }

    @Override
    public String lookupByAddress(byte[] address) throws UnknownHostException {
        return others.lookupByAddress(address);
    }
}
