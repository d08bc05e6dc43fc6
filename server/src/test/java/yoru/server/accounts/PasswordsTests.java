package yoru.server.accounts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.springframework.security.crypto.password.PasswordEncoder;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;

class PasswordsTests {

    private final SchoolSettings settings = mock();

    /** Mockito: a hash that takes exactly as long as it is made to. */
    private final PasswordEncoder encoder = mock();

    @Test
    void noMoreAreTriedAtOnceThanThereAreProcessors() throws InterruptedException {
        int most = Math.max(2, Runtime.getRuntime().availableProcessors());
        var atOnce = new AtomicInteger();
        var highest = new AtomicInteger();
        var full = new CountDownLatch(most);
        when(encoder.matches(any(), any())).thenAnswer(_ -> {
            highest.accumulateAndGet(atOnce.incrementAndGet(), Math::max);
            full.countDown();
            full.await(); // until as many are at it as may be
            atOnce.decrementAndGet();
            return true;
        });
        when(encoder.encode(any())).thenReturn("hash");
        var passwords = new Passwords(encoder, settings);
        try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
            for (int n = 0; n < 30; n++) {
                threads.submit(() -> passwords.matches("any", "hash"));
            }
        }
        assertThat(highest).hasValue(most);
    }

    @Test
    void whoseNameOrSchoolIsInItIsSoonGuessed() {
        when(encoder.encode(any())).thenReturn("hash");
        when(settings.name()).thenReturn("Hollow Oak Bee School");
        var passwords = new Passwords(encoder, settings);
        for (var known : new String[] {
            "signeholm1",
            "hollowoak2026",
            "signe@hollowoak",
            "yoruyoruyoru",
            "beeschool11",
            "hollow oak bees",
            "hollow-oak-bees"
        }) {
            assertThatThrownBy(() -> passwords.check(known, "signe@hollowoak.example", "Signe Holm"))
                    .as(known)
                    .isInstanceOf(ProblemException.class);
        }
        passwords.check("drone comb under seven lids", "signe@hollowoak.example", "Signe Holm");
    }
}
