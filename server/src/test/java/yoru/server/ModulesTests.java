package yoru.server;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.springframework.modulith.core.ApplicationModules;

class ModulesTests {

    private final ApplicationModules modules = ApplicationModules.of(YoruServer.class);

    @Test
    void capabilitiesKeepTheirBorders() {
        modules.verify();
        assertThat(modules.stream()).hasSizeGreaterThan(8);
    }
}
