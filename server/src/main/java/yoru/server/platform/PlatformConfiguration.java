package yoru.server.platform;

import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

@Configuration(proxyBeanMethods = false)
class PlatformConfiguration {

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
