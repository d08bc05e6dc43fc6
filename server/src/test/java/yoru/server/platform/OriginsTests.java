package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Addresses of RFC 5737 and RFC 3849. */
class OriginsTests {

    @ParameterizedTest
    @CsvSource({
        "192.0.2.1, 192.0.2.1",
        "::ffff:192.0.2.1, 192.0.2.1",
        "2001:db8:0:1::1, 2001:db8:0:1:0:0:0:0/64",
        "2001:db8:0:1:ffff:ffff:ffff:ffff, 2001:db8:0:1:0:0:0:0/64",
        "2001:db8:0:2::1, 2001:db8:0:2:0:0:0:0/64",
        "no:address, no:address",
        "unknown, unknown",
    })
    void anIpv6NetworkIsOnePlace(String address, String place) {
        assertThat(Origins.place(address)).isEqualTo(place);
    }
}
