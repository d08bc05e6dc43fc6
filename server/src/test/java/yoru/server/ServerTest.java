package yoru.server;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import java.util.HexFormat;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.context.SpringBootTest.WebEnvironment;
import org.springframework.boot.test.util.TestPropertyValues;
import org.springframework.context.ApplicationContextInitializer;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Import;
import org.springframework.test.context.ContextConfiguration;

/** The whole server on a free port, on a PostgreSQL database of its own, with a practice school connected. */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@SpringBootTest(webEnvironment = WebEnvironment.RANDOM_PORT)
@ContextConfiguration(initializers = ServerTest.OnItsOwnDatabase.class)
@Import(TestSchool.class)
public @interface ServerTest {

    /** Impatient, so that tests see a retry and a giving-up within seconds. */
    final class OnItsOwnDatabase implements ApplicationContextInitializer<ConfigurableApplicationContext> {

        @Override
        public void initialize(ConfigurableApplicationContext context) {
            TestPropertyValues.of(settings(TestDatabase.make())).applyTo(context);
        }

        private static String[] settings(String database) {
            return new String[] {
                "spring.datasource.url=jdbc:postgresql://127.0.0.1:" + TestDatabase.port() + "/" + database,
                "spring.datasource.username=yoru_admin",
                "spring.datasource.password=" + TestDatabase.password(),
                "yoru.key=" + HexFormat.of().formatHex(new byte[32]),
                "yoru.school-name=Hollow Oak Bee School",
                "yoru.inside-allowed=127.0.0.0/8",
                "yoru.password-cost=4",
                "yoru.delivery.first-pause=100ms",
                "yoru.delivery.rest-after-failures=300ms",
                "yoru.delivery.longest-pause=300ms",
                "yoru.delivery.give-up-after=8s",
                "yoru.delivery.timeout=10s",
                "yoru.delivery.settle=1s",
                "db-scheduler.polling-interval=200ms"
            };
        }
    }
}
