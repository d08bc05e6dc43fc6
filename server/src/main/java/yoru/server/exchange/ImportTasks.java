package yoru.server.exchange;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;

/** Brings tables in; where a server dies another goes on with what is left. */
@Configuration(proxyBeanMethods = false)
class ImportTasks {

    static final TaskDescriptor<Void> RUN = TaskDescriptor.of("import");

    private static final int ENTRIES_AT_ONCE = 200;

    @Bean
    OneTimeTask<Void> runImport(ImportWork imports) {
        return Tasks.oneTime(RUN).onFailure(Queue.againSoon()).execute((task, context) -> {
            long id = Long.parseLong(task.getId().split(":", 2)[0]);
            var left = imports.left(id);
            for (int from = 0; from < left.size(); from += ENTRIES_AT_ONCE) {
                if (!imports.take(id, left.subList(from, Math.min(left.size(), from + ENTRIES_AT_ONCE)))) {
                    return;
                }
            }
            imports.done(id);
        });
    }
}
