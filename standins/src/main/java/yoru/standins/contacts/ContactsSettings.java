package yoru.standins.contacts;

import java.net.URI;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;
import yoru.standins.practice.Reports;

/**
 * What the contacts are told at their start.
 *
 * @param token lets programs in
 * @param reportTo where changes are reported
 * @param secret signs the reports
 */
@ConfigurationProperties("contacts")
record ContactsSettings(String token, URI reportTo, String secret) {

    @Configuration(proxyBeanMethods = false)
    @Profile("contacts")
    @EnableConfigurationProperties(ContactsSettings.class)
    static class Enabled {
        @Bean
        Reports reports(ContactsSettings settings) {
            return new Reports(settings.reportTo(), settings.secret());
        }
    }
}
