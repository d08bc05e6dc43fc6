package yoru.server.access;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.someone;

import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import yoru.server.ServerTest;
import yoru.server.TestSchool;
import yoru.server.platform.Queue;
import yoru.server.rulebooks.Rulebooks;

/** Publishes that wait to be followed are followed in one go, and one go at a time. */
@ServerTest
@DirtiesContext // what it publishes is for nobody else
class AfterPublishTests {

    @Autowired
    private TestSchool school;

    @Autowired
    private AfterPublish publishes;

    @Autowired
    private Rulebooks rulebooks;

    @Autowired
    private Queue queue;

    @Autowired
    private JdbcClient jdbc;

    @Test
    void whoeverTheFirstOrTheLastOfThemConcernsIsLookedOver() {
        var first = someone();
        var last = someone();
        school.buys(first, "KIT", Instant.now());
        school.buys(last, "DAY", Instant.now());
        school.publish("KIT", "tools", "P6M");
        school.publish("DAY", "tools", "P3M");
        await().atMost(60, SECONDS).until(() -> school.quiet() && opened(first, last) == 2);
        int number = rulebooks.current().number();

        jdbc.sql("delete from standing where target = 'course/tools'").update();
        waits(number - 1, true);
        waits(number, false);
        assertThat(publishes.lookOver(number)).as("another server is at it").isFalse();
        assertThat(opened(first, last)).isZero();

        jdbc.sql("update scheduled_tasks set picked = false where task_name = 'after-publish'")
                .update();
        assertThat(publishes.lookOver(number)).isTrue();
        assertThat(opened(first, last)).isEqualTo(2);
        assertThat(queue.all(AfterPublish.TASK)).as("nothing is left to follow").isEmpty();
    }

    /** In the queue, and due to nobody. */
    private void waits(int number, boolean begun) {
        jdbc.sql("""
                        insert into scheduled_tasks (task_name, task_instance, execution_time, picked, picked_by, last_heartbeat, version)
                        values ('after-publish', :number, '2100-01-01', :begun, 'another server', now(), 1)""")
                .param("number", String.valueOf(number))
                .param("begun", begun)
                .update();
    }

    private long opened(String... people) {
        return jdbc.sql("""
                        select count(*) from standing s join person p on p.id = s.person_id
                        where s.target = 'course/tools' and p.person_key in (:people)""").param("people", List.of(people)).query(Long.class).single();
    }
}
