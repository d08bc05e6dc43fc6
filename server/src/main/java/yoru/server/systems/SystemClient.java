package yoru.server.systems;

import java.net.http.HttpClient;
import java.time.Duration;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.client.RestClient;
import yoru.server.platform.YoruSettings;

/** Speaks HTTP with connected systems: with a time limit, without following redirects. */
@Component
public class SystemClient {

    private final RestClient client;
    private final Connections connections;

    SystemClient(RestClient.Builder builder, Connections connections, YoruSettings settings) {
        var http = HttpClient.newBuilder()
                .connectTimeout(Duration.ofSeconds(3))
                .version(HttpClient.Version.HTTP_1_1)
                .followRedirects(HttpClient.Redirect.NEVER)
                .build();
        var factory = new JdkClientHttpRequestFactory(http);
        factory.setReadTimeout(settings.delivery().timeout());
        this.client = builder.requestFactory(factory).build();
        this.connections = connections;
    }

    /** A client that finds the system's address and is let in there. */
    public RestClient at(Connection connection) {
        return client.mutate()
                .baseUrl(connection.address())
                .defaultHeaders(headers -> headers.setBearerAuth(connections.token(connection)))
                .build();
    }
}
