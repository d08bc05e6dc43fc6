package yoru.standins.community;

import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;

/** @param token lets programs in */
@ConfigurationProperties("community")
record CommunitySettings(String token) {

    @Configuration(proxyBeanMethods = false)
    @Profile("community")
    @EnableConfigurationProperties(CommunitySettings.class)
    static class Enabled {}
}
