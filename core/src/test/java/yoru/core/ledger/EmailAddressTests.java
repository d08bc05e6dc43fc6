package yoru.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Forms of RFC 5321, 4.1.2; its longest is in 4.5.3.1.3. */
class EmailAddressTests {

    @ParameterizedTest
    @ValueSource(
            strings = {"a@b.example", "ada.lovelace+bees@post.bees.example", "ø@ø.example", "\u4f60@\u597d.example"})
    void isOne(String text) {
        assertThat(EmailAddress.isOne(text)).isTrue();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "a",
                "a@b",
                "a@b.",
                "a@.b",
                "a@b..c",
                "@b.c",
                "a@b@c.d",
                "a b@c.d",
                "a@b.c\r\nBcc: d@e.f",
                "a\0@b.c"
            })
    void isNone(String text) {
        assertThat(EmailAddress.isOne(text)).isFalse();
    }

    /** Neither the time nor the stack that it takes grows with what somebody makes up. */
    @Test
    void anyLengthIsSoonDecided() {
        assertTimeoutPreemptively(Duration.ofSeconds(5), () -> {
            for (var part : new String[] {".", "a.", "a@", "@", "a"}) {
                assertThat(EmailAddress.isOne("a@" + part.repeat(200_000) + "@"))
                        .isFalse();
            }
        });
        assertThat(EmailAddress.isOne("a@" + "b.".repeat(125) + "cd")).isTrue();
        assertThat(EmailAddress.isOne("a@" + "b.".repeat(126) + "cd")).isFalse();
    }
}
