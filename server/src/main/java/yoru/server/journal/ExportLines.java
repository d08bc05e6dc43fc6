package yoru.server.journal;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import yoru.server.platform.Acting;

/** Notes who has taken files out, whatever they are. */
@Component
class ExportLines implements WebMvcConfigurer, HandlerInterceptor {

    private final Journal journal;

    ExportLines(Journal journal) {
        this.journal = journal;
    }

    @Override
    public void addInterceptors(InterceptorRegistry registry) {
        registry.addInterceptor(this).addPathPatterns("/api/**");
    }

    @Override
    public void afterCompletion(
            HttpServletRequest request, HttpServletResponse response, Object handler, @Nullable Exception failure) {
        var disposition = response.getHeader(HttpHeaders.CONTENT_DISPOSITION);
        if (disposition != null && disposition.startsWith("attachment") && response.getStatus() < 300) {
            Acting.now()
                    .ifPresent(who -> journal.write(new Journal.Line(
                            Kind.OPERATOR, "Exported", request.getRequestURI(), who.address(), null, null)));
        }
    }
}
