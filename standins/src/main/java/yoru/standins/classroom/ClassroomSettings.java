package yoru.standins.classroom;

import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;

/**
 * What the classroom is told at its start.
 *
 * @param token lets whoever enrols learners in
 * @param shop where visitors without access can buy
 */
@ConfigurationProperties("classroom")
record ClassroomSettings(String token, String shop) {

    @Configuration(proxyBeanMethods = false)
    @Profile("classroom")
    @EnableConfigurationProperties(ClassroomSettings.class)
    static class Enabled {}
}
