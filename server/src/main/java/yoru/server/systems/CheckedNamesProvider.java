package yoru.server.systems;

import java.net.spi.InetAddressResolver;
import java.net.spi.InetAddressResolverProvider;

/** Has this JVM look names up through {@link CheckedNames}; Java finds it by itself (META-INF/services). */
public final class CheckedNamesProvider extends InetAddressResolverProvider {

    @Override
    public InetAddressResolver get(Configuration configuration) {
        return CheckedNames.install(configuration.builtinResolver());
    }

    @Override
    public String name() {
        return "names as they were checked";
    }
}
