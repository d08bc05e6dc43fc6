package yoru.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.security.GeneralSecurityException;
import java.time.Instant;
import java.util.Arrays;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** Somebody sets up a second factor, signs in with it, and with a code that they wrote down once the authenticator is lost. */
class SecondFactorTests {

    private static final String BASE32 = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567"; // RFC 4648, 6

    @RegisterExtension
    final Chromium chromium = new Chromium();

    private final School school = School.running();

    @Test
    void itIsSetUpAndAskedForFromThenOn() {
        var page = chromium.colleague(school, "Otto Berg");
        page.navigate(school.server() + "/account");
        var email = page.getByText("@hollowoak.example").first().innerText().split(" ")[0];
        OnScreen.button(page, "Set it up").click();
        var secret = page.locator("code").first().innerText();
        page.getByLabel("The code that it shows now").fill("000000");
        OnScreen.button(page, "Ask for it from now on").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("not the one");
        long step = Instant.now().getEpochSecond() / 30;
        page.getByLabel("The code that it shows now").fill(code(secret, step));
        OnScreen.button(page, "Ask for it from now on").click();
        var spare = page.locator("ul.font-mono li").first().innerText();
        OnScreen.button(page, "I have them").click();
        assertThat(page.getByText("is asked for a code whenever you sign in")).isVisible();

        signsIn(page, email, code(secret, step + 1));
        assertThat(OnScreen.heading(page, "Today")).isVisible();
        signsIn(page, email, spare);
        assertThat(OnScreen.heading(page, "Today")).isVisible();
        signsIn(page, email, spare);
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The second factor is needed");
    }

    private void signsIn(Page page, String email, String code) {
        OnScreen.button(page, "Sign out").click();
        page.getByLabel("E-mail address").fill(email);
        page.getByLabel("Password").fill(Chromium.COLLEAGUES);
        OnScreen.button(page, "Sign in").click();
        page.getByLabel("Code of your authenticator").fill(code);
        OnScreen.button(page, "Sign in").click();
    }

    /** RFC 4226, 5.3, as an authenticator has it. */
    private static String code(String secret, long step) {
        var bits = BigInteger.ZERO;
        for (char letter : secret.toCharArray()) {
            bits = bits.shiftLeft(5).add(BigInteger.valueOf(BASE32.indexOf(letter)));
        }
        var bytes = bits.toByteArray();
        var key = new byte[secret.length() * 5 / 8];
        int from = Math.max(0, bytes.length - key.length);
        var tail = Arrays.copyOfRange(bytes, from, bytes.length);
        System.arraycopy(tail, 0, key, key.length - tail.length, tail.length);
        try {
            var mac = Mac.getInstance("HmacSHA1");
            mac.init(new SecretKeySpec(key, "HmacSHA1"));
            var digest = mac.doFinal(ByteBuffer.allocate(8).putLong(step).array());
            int number = ByteBuffer.wrap(digest, digest[19] & 0xf, 4).getInt() & 0x7fffffff;
            return "%06d".formatted(number % 1_000_000);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }
}
