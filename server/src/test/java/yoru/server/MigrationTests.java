package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** A database of an earlier version, with something on its way, is taken over. */
class MigrationTests {

    @Test
    void whatWasOnItsWayBeforeThereWereLanesIsStillSent() {
        var database = database();
        var jdbc = JdbcClient.create(database);
        Flyway.configure().dataSource(database).target("2").load().migrate();
        jdbc.sql("""
                insert into connection (id, kind, title, address, signing_secret, token)
                  values ('classroom', 'CLASSROOM', 'Classroom', 'http://c.example', '\\x01', '\\x02');
                insert into person (person_key, name, first_seen_at) values ('ada@post.example', 'Ada', now()), ('ben@post.example', 'Ben', now());
                insert into delivery (connection_id, person_id, course, open, revision, status, attempts)
                  select 'classroom', id, 'honey', true, 3, case person_key when 'ada@post.example' then 'WAITING' else 'ANSWERED' end, 2 from person;
                insert into scheduled_tasks (task_name, task_instance, execution_time, picked, version)
                  select 'deliver', id || ':3', now(), false, 1 from delivery where status = 'WAITING'""").update();

        Flyway.configure().dataSource(database).load().migrate();

        assertThat(jdbc.sql("select matter || ' ' || revision from delivery")
                        .query(String.class)
                        .list())
                .containsOnly("course/honey 3");
        assertThat(jdbc.sql(
                                "select task_name || ' ' || task_instance from scheduled_tasks where task_name in ('deliver', 'tell')")
                        .query(String.class)
                        .list())
                .as("in the lane of the person who waits, and in no other")
                .containsExactly(jdbc.sql("select 'tell classroom/' || id || '@1' from person where name = 'Ada'")
                        .query(String.class)
                        .single());
        assertThat(jdbc.sql("select state from connection").query(String.class).single())
                .isEqualTo("ON");
    }

    @Test
    void factsOfBeforeSayWhereTheyCameFrom() {
        var database = database();
        var jdbc = JdbcClient.create(database);
        Flyway.configure().dataSource(database).target("24").load().migrate();
        jdbc.sql("""
                insert into connection (id, kind, title, address, state) values ('shop', 'SHOP', 'Shop', 'http://s.example', 'ON');
                insert into fact (source, event_id, type, subject, happened_at, received_at, connection_id, body)
                  select source, event_id, 'yoru.order.placed', 'ada@post.example', now(), now(), connection_id, '{}'
                  from (values ('https://shop.example', 'a SYSTEM', 'shop'), ('/yoru/desk', 'claim-b VISITOR', null),
                    ('/yoru/desk', 'c OPERATOR', null), ('/segments', 'd OPERATOR', null), ('/policies', 'e YORU', null),
                    ('https://old.example', 'f FILE', null)) v (source, event_id, connection_id)""").update();

        Flyway.configure().dataSource(database).load().migrate();

        assertThat(jdbc.sql("select event_id from fact where event_id not like '% ' || origin")
                        .query(String.class)
                        .list())
                .isEmpty();
    }

    private static DriverManagerDataSource database() {
        return new DriverManagerDataSource(
                "jdbc:postgresql://127.0.0.1:" + TestDatabase.port() + "/" + TestDatabase.make(),
                "yoru_admin",
                TestDatabase.password());
    }
}
