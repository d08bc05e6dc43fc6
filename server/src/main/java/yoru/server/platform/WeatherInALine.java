package yoru.server.platform;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.LoggerContext;
import ch.qos.logback.classic.turbo.TurboFilter;
import ch.qos.logback.core.spi.FilterReply;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.slf4j.LoggerFactory;
import org.slf4j.Marker;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.stereotype.Component;

/** Whoever tells with a trace that the database is away tells it in a line: libraries catch it in places that nobody foresees. */
@Component
class WeatherInALine extends TurboFilter implements DisposableBean {

    private static final org.slf4j.Logger LOG = LoggerFactory.getLogger(WeatherInALine.class);

    private final LoggerContext logging = (LoggerContext) LoggerFactory.getILoggerFactory();

    WeatherInALine() {
        logging.addTurboFilter(this);
    }

    @Override
    public void destroy() {
        logging.getTurboFilterList().remove(this);
    }

    @Override
    public FilterReply decide(
            @Nullable Marker marker,
            Logger logger,
            Level level,
            @Nullable String said,
            Object @Nullable [] with,
            @Nullable Throwable thrown) {
        if (!level.isGreaterOrEqual(logger.getEffectiveLevel())) {
            return FilterReply.NEUTRAL; // asked for whatever nobody wants to hear of, too
        }
        var weather = Stream.concat(
                        Stream.ofNullable(thrown), Stream.ofNullable(with).flatMap(Stream::of))
                .filter(it -> it instanceof Throwable e && Weather.isDatabaseAway(e))
                .findFirst();
        if (weather.isEmpty()) {
            return FilterReply.NEUTRAL;
        }
        LOG.warn("{} says: {} ({})", logger.getName(), said, String.valueOf(weather.get()));
        return FilterReply.DENY;
    }
}
