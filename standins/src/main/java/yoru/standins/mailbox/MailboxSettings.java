package yoru.standins.mailbox;

import java.net.URI;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;
import yoru.standins.practice.Reports;

/**
 * What the mailbox is told at its start.
 *
 * @param port where letters are taken, over SMTP
 * @param user who may send
 * @param password with what
 * @param reportTo where it is reported that somebody leaves a list
 * @param secret signs the reports
 * @param kept so many of the latest letters
 */
@ConfigurationProperties("mailbox")
record MailboxSettings(
        int port,
        String user,
        String password,
        URI reportTo,
        String secret,
        @DefaultValue("5000") int kept) {

    @Configuration(proxyBeanMethods = false)
    @Profile("mailbox")
    @EnableConfigurationProperties(MailboxSettings.class)
    static class Enabled {
        @Bean
        Reports reports(MailboxSettings settings) {
            return new Reports(settings.reportTo(), settings.secret());
        }
    }
}
