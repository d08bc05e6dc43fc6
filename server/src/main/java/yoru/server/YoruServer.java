package yoru.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;

/** Starts the server. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class YoruServer {

    public static void main(String[] args) {
        SpringApplication.run(YoruServer.class, args);
    }
}
