package yoru.server.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.Stream;
import org.apache.tomcat.util.http.InvalidParameterException;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.server.PathContainer;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/**
 * How large a request may be, asked before anything of it is read and before anybody is asked who they are: whoever
 * sends more than this has nothing kept in memory for it (OWASP ASVS 5.0, 5.2.1).
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class BodyLimits extends OncePerRequestFilter {

    private static final int KIB = 1024;
    private static final int MIB = 1024 * KIB;

    /** What anybody may send, signed in or not. */
    static final int OF_ANYBODY = 64 * KIB;

    /** What is not named here. */
    private static final Limit OTHERS = new Limit("/**", MIB);

    private static final List<Limit> LIMITS = Stream.concat(
                    PublicPages.PATHS.stream().map(path -> new Limit(path + "/**", OF_ANYBODY)),
                    Stream.of(
                            new Limit("/api/session/**", OF_ANYBODY),
                            new Limit("/api/owner/**", OF_ANYBODY),
                            new Limit("/hooks/**", 256 * KIB),
                            // tables of a whole school
                            new Limit("/api/imports", 50_000_000),
                            new Limit("/api/systems/{id}/files", 8 * MIB),
                            // whole rulebooks
                            new Limit("/api/mapping/**", 16 * MIB)))
            .toList();

    /** @param bytes at most */
    private record Limit(PathPattern path, int bytes) {

        Limit(String path, int bytes) {
            this(PathPatternParser.defaultInstance.parse(path), bytes);
        }
    }

    private static Limit limit(HttpServletRequest request) {
        var path = PathContainer.parsePath(request.getRequestURI());
        return LIMITS.stream()
                .filter(limit -> limit.path.matches(path))
                .findFirst()
                .orElse(OTHERS);
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        int most = limit(request).bytes;
        if (request.getContentLengthLong() > most) {
            ProblemAnswer.write(response, new TooLarge(most));
            return;
        }
        try {
            chain.doFilter(new Limited(request, most), response);
        } catch (TooLarge e) {
            ProblemAnswer.write(response, e);
        } catch (InvalidParameterException e) {
            ProblemAnswer.write(response, formRefused(e));
        }
    }

    /** A form is read by the web server itself, which has its own words for what is wrong with it. */
    static ProblemException formRefused(InvalidParameterException e) {
        return e.getErrorCode() == HttpStatus.CONTENT_TOO_LARGE.value()
                ? new TooLarge(OF_ANYBODY)
                : new ProblemException(
                        HttpStatus.BAD_REQUEST, "This cannot be read", "The form is not written as one.");
    }

    /** Whoever does not say how much they send is stopped when it has become too much. */
    private static final class TooLarge extends ProblemException {

        private static final long serialVersionUID = 1;

        TooLarge(int most) {
            super(HttpStatus.CONTENT_TOO_LARGE, "Too large", "A request here has at most %d bytes.".formatted(most));
        }
    }

    private static final class Limited extends HttpServletRequestWrapper {

        private final int most;
        private @Nullable ServletInputStream body;

        Limited(HttpServletRequest request, int most) {
            super(request);
            this.most = most;
        }

        @Override
        public ServletInputStream getInputStream() throws IOException {
            if (body == null) {
                body = new Counted(super.getInputStream(), most);
            }
            return body;
        }

        @Override
        public BufferedReader getReader() throws IOException {
            var encoding = getCharacterEncoding();
            return new BufferedReader(new InputStreamReader(
                    getInputStream(), encoding == null ? StandardCharsets.UTF_8 : Charset.forName(encoding)));
        }
    }

    private static final class Counted extends ServletInputStream {

        private final ServletInputStream body;
        private final int most;
        private long read;

        Counted(ServletInputStream body, int most) {
            this.body = body;
            this.most = most;
        }

        @Override
        public int read() throws IOException {
            int one = body.read();
            count(one < 0 ? 0 : 1);
            return one;
        }

        @Override
        public int read(byte[] into, int from, int length) throws IOException {
            int many = body.read(into, from, length);
            count(Math.max(0, many));
            return many;
        }

        private void count(int more) {
            read += more;
            if (read > most) {
                throw new TooLarge(most);
            }
        }

        @Override
        public boolean isFinished() {
            return body.isFinished();
        }

        @Override
        public boolean isReady() {
            return body.isReady();
        }

        @Override
        public void setReadListener(ReadListener listener) {
            body.setReadListener(listener);
        }
    }
}
