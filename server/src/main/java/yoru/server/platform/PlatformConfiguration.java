package yoru.server.platform;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.task.ThreadPoolTaskSchedulerCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

@Configuration(proxyBeanMethods = false)
class PlatformConfiguration {

    private static final Logger LOG = LoggerFactory.getLogger(PlatformConfiguration.class);

    /** What is done every few seconds is done the next time; with a trace where it was not the weather. */
    @Bean
    ThreadPoolTaskSchedulerCustomizer scheduled() {
        return scheduler -> scheduler.setErrorHandler(e -> {
            if (Weather.isBehind(e)) {
                LOG.warn("Something that is done every few seconds was not done: {}", e.getMessage());
            } else {
                LOG.error("Something that is done every few seconds failed", e);
            }
        });
    }

    /** The queue's: who takes over whose work is decided by one clock too. */
    @Bean
    com.github.kagkarlsson.scheduler.Clock queueClock(SharedClock clock) {
        return clock::instant;
    }

    @Bean
    TransactionTemplate transactionTemplate(PlatformTransactionManager transactions) {
        return new TransactionTemplate(transactions);
    }
}
