package yoru.server.access;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;
import static yoru.server.TestSchool.someone;

import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
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

    @Test
    void whoCannotBeLookedOverHoldsUpNobodyElse() {
        var two = Stream.of(someone(), someone()).sorted().toList();
        two.forEach(person -> school.buys(person, "KIT", Instant.now()));
        school.publish("KIT", "tools", "P9M");
        await().atMost(60, SECONDS).until(() -> school.quiet() && opened(two.get(0), two.get(1)) == 2);
        int number = rulebooks.current().number();
        jdbc.sql("delete from standing where target = 'course/tools'").update();
        waits(number, false);
        jdbc.sql("""
                        create function refused() returns trigger language plpgsql as $$
                        begin raise exception 'refused'; end $$""").update();
        jdbc.sql(
                        "create trigger refused before insert on standing for each row when (new.person_id = %d) execute function refused()"
                                .formatted(id(two.getFirst())))
                .update();

        assertThatThrownBy(() -> publishes.lookOver(number)).hasMessageContaining("refused");
        assertThat(opened(two.getLast())).isEqualTo(1);
        assertThat(queue.all(AfterPublish.TASK)).as("it is to be tried again").hasSize(1);

        jdbc.sql("drop function refused cascade").update();
        assertThat(publishes.lookOver(number)).isTrue();
        assertThat(opened(two.getFirst())).isEqualTo(1);
    }

    private long id(String person) {
        return jdbc.sql("select id from person where person_key = ?")
                .param(person)
                .query(Long.class)
                .single();
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
