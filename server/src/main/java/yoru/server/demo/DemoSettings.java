package yoru.server.demo;

import org.springframework.boot.context.properties.ConfigurationProperties;

/** Where the practice systems are and how they are let in, under {@code yoru.demo-systems.*}. */
@ConfigurationProperties("yoru.demo-systems")
record DemoSettings(Place shop, Place classroom) {

    record Place(String address, String signingSecret, String token) {}
}
