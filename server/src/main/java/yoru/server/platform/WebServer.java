package yoru.server.platform;

import jakarta.servlet.Filter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.net.InetAddress;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.catalina.connector.Connector;
import org.apache.catalina.valves.RemoteIpValve;
import org.apache.coyote.AbstractProtocol;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;

/** Whom the web server believes about where a request came from, and which port is for watching over it only. */
@Configuration(proxyBeanMethods = false)
class WebServer {

    /** Said where an installation stands open by itself. */
    private static final String NONE = "none";

    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> proxies(YoruSettings settings, SchoolSettings school) {
        var believed = believed(settings, school);
        return factory -> {
            if (!believed.isEmpty()) {
                factory.addEngineValves(believing(believed));
            }
        };
    }

    private static List<String> believed(YoruSettings settings, SchoolSettings school) {
        if (school.isSecure() && settings.proxies().isEmpty()) {
            throw new WrongSettingException(
                    "YORU_PROXIES",
                    "is missing, though people reach Yoru under " + school.publicAddress(),
                    "Name the addresses of the machines before Yoru that take its TLS, such as 127.0.0.1: only they are"
                            + " believed about where a request came from. YORU_PROXIES=none says that there are none.");
        }
        if (settings.proxies().equals(List.of(NONE))) {
            return List.of();
        }
        settings.proxies().forEach(WebServer::checkAddress);
        return settings.proxies();
    }

    private static void checkAddress(String address) {
        try {
            InetAddress.ofLiteral(address);
        } catch (IllegalArgumentException e) {
            throw new WrongSettingException(
                    "YORU_PROXIES",
                    "has “" + address + "”, which is no IP address",
                    "Name addresses such as 127.0.0.1 or ::1, separated by commas.");
        }
    }

    /** Tomcat's own: the last address in X-Forwarded-For that is none of theirs, and X-Forwarded-Proto. */
    private static RemoteIpValve believing(List<String> proxies) {
        var valve = new RemoteIpValve();
        valve.setInternalProxies(proxies.stream().map(Pattern::quote).collect(Collectors.joining("|")));
        valve.setRemoteIpHeader("X-Forwarded-For");
        valve.setProtocolHeader("X-Forwarded-Proto");
        return valve;
    }

    /** On this machine only, whatever stands before the other port. */
    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> metricsPort(YoruSettings settings) {
        return factory -> {
            if (settings.metricsPort() != null) {
                factory.addAdditionalConnectors(connector(settings.metricsPort()));
            }
        };
    }

    private static Connector connector(int port) {
        var connector = new Connector();
        connector.setPort(port);
        if (connector.getProtocolHandler() instanceof AbstractProtocol<?> protocol) {
            protocol.setAddress(InetAddress.getLoopbackAddress());
            protocol.setMaxThreads(4);
            protocol.setMinSpareThreads(1);
        }
        return connector;
    }

    /** What is served on one port is not on the other. */
    @Bean
    FilterRegistrationBean<Filter> portOfItsOwn(YoruSettings settings) {
        var filter = new FilterRegistrationBean<Filter>((request, response, chain) -> {
            if (request instanceof HttpServletRequest asked
                    && response instanceof HttpServletResponse answer
                    && isForWatching(asked.getServletPath()) != isOn(settings.metricsPort(), asked)) {
                answer.sendError(HttpServletResponse.SC_NOT_FOUND);
                return;
            }
            chain.doFilter(request, response);
        });
        filter.setOrder(Ordered.HIGHEST_PRECEDENCE);
        return filter;
    }

    private static boolean isForWatching(String path) {
        return path.startsWith("/actuator/prometheus") || path.startsWith("/actuator/quiet");
    }

    private static boolean isOn(@Nullable Integer port, HttpServletRequest request) {
        return port != null && request.getLocalPort() == port;
    }
}
