package yoru.standins.mailbox;

import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;

/**
 * What the mailbox is told at its start.
 *
 * @param port where letters are taken, over SMTP
 * @param user who may send
 * @param password with what
 */
@ConfigurationProperties("mailbox")
record MailboxSettings(int port, String user, String password) {

    @Configuration(proxyBeanMethods = false)
    @Profile("mailbox")
    @EnableConfigurationProperties(MailboxSettings.class)
    static class Enabled {}
}
