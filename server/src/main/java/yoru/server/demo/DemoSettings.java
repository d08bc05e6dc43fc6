package yoru.server.demo;

import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/** Where the practice systems are and how they are let in, under {@code yoru.demo-systems.*}; outside the demo there are none. */
@ConfigurationProperties("yoru.demo-systems")
record DemoSettings(
        @Nullable Place shop,
        @Nullable Place classroom,
        @Nullable Place contacts,
        @Nullable Place community,
        @Nullable Place mailbox,
        @Nullable Place market) {

    record Place(
            String address,
            @Nullable String signingSecret,
            String token,
            @DefaultValue Map<String, String> settings) {}
}
