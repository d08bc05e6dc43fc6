package yoru.standins.shop;

import java.net.URI;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;
import yoru.standins.practice.Reports;

/**
 * What the shop is told at its start.
 *
 * @param reportTo where its events go
 * @param secret signs them
 * @param token lets others read its catalogue
 * @param classroom where its buyers go to learn
 */
@ConfigurationProperties("shop")
record ShopSettings(URI reportTo, String secret, String token, String classroom) {

    @Configuration(proxyBeanMethods = false)
    @Profile("shop")
    @EnableConfigurationProperties(ShopSettings.class)
    static class Enabled {
        @Bean
        Reports reports(ShopSettings settings) {
            return new Reports(settings.reportTo(), settings.secret());
        }
    }
}
