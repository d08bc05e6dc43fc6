package yoru.server.platform;

import org.springframework.boot.actuate.endpoint.annotation.Endpoint;
import org.springframework.boot.actuate.endpoint.annotation.ReadOperation;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Whether there is anything left to do now, whatever the work is called; what has its time to come does not count. */
@Component
@Endpoint(id = "quiet")
class QuietEndpoint {

    private final JdbcClient jdbc;

    QuietEndpoint(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param steps pieces of work that are due or being done */
    record Quiet(boolean quiet, long steps) {}

    @ReadOperation
    Quiet now() {
        long steps = jdbc.sql("""
                        select count(*) from scheduled_tasks
                        where execution_time <= now() and task_instance <> 'recurring'""").query(Long.class).single();
        return new Quiet(steps == 0, steps);
    }
}
