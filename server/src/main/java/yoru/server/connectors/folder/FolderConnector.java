package yoru.server.connectors.folder;

import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import java.util.Set;
import org.apache.commons.csv.CSVFormat;
import org.springframework.stereotype.Component;
import yoru.core.systems.Ability;
import yoru.server.platform.YoruSettings;
import yoru.server.systems.Connector;
import yoru.server.systems.Place;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/**
 * Writes what should be so into CSV files, one a day (UTC), for a system that has no interface (docs/formats/folder.md), and
 * finds what it has put down. Lines are only ever added; of several about the same person and target the one with the highest revision counts.
 */
@Component
class FolderConnector implements Connector {

    private static final CSVFormat CSV = CSVFormat.RFC4180;
    private static final String[] COLUMNS = {
        "time", "person", "name", "target", "state", "until", "revision", "key", "renews"
    };

    private final YoruSettings settings;
    private final Clock clock;

    FolderConnector(YoruSettings settings, Clock clock) {
        this.settings = settings;
        this.clock = clock;
    }

    @Override
    public SystemKind kind() {
        return SystemKind.FOLDER;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(
                Ability.ACCOUNTS,
                Ability.ENROLMENT,
                Ability.SECTIONS,
                Ability.GROUPS,
                Ability.AREAS,
                Ability.DOWNLOADS,
                Ability.LISTS,
                Ability.TAGS);
    }

    @Override
    public AddressForm addressForm() {
        return AddressForm.FOLDER;
    }

    @Override
    public String tell(Place place, Statement statement) {
        var now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
        var file = folder(place).resolve("changes-" + LocalDate.ofInstant(now, ZoneOffset.UTC) + ".csv");
        append(file, values(now, statement));
        return "written to " + file.getFileName();
    }

    @Override
    public String preview(Place place, Statement statement) {
        var line = new StringWriter();
        try {
            CSV.print(line).printRecord(values(clock.instant().truncatedTo(ChronoUnit.SECONDS), statement));
        } catch (IOException e) {
            throw new UncheckedIOException(e); // not of what is written into memory
        }
        return line.toString().strip();
    }

    private static Object[] values(Instant now, Statement statement) {
        return new Object[] {
            now,
            statement.person(),
            statement.name(),
            statement.matter().path(),
            statement.open() ? "open" : "closed",
            statement.until() == null ? "" : statement.until(),
            statement.revision(),
            statement.key(),
            statement.renews()
        };
    }

    @Override
    public Sample sample(Place place) {
        var folder = folder(place);
        try (var files = Files.list(folder)) {
            return new Sample("the folder", folder.getFileName() + " with " + files.count() + " files");
        } catch (IOException e) {
            throw unusable(e);
        }
    }

    @Override
    public Optional<Inbox> inbox(Place place) {
        return settings.folder() == null ? Optional.empty() : Optional.of(new FolderInbox(folder(place), clock));
    }

    /** A whole line at a time, also where two servers write into one folder. */
    private synchronized void append(Path file, Object[] values) {
        try (var channel = FileChannel.open(
                        file, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.READ);
                var _ = channel.lock()) {
            var line = new StringWriter();
            if (channel.size() == 0) {
                CSV.print(line).printRecord((Object[]) COLUMNS);
            }
            CSV.print(line).printRecord(values);
            channel.position(channel.size());
            channel.write(ByteBuffer.wrap(line.toString().getBytes(StandardCharsets.UTF_8)));
            channel.force(false);
        } catch (IOException e) {
            throw unusable(e);
        }
    }

    private Path folder(Place place) {
        var base = settings.folder();
        if (base == null) {
            throw new TroubleException(
                    Trouble.NOT_ALLOWED, "has no folder: the configuration names none (yoru.folder)");
        }
        var folder = base.resolve(place.address()).normalize();
        if (!folder.startsWith(base) || folder.equals(base)) {
            throw new TroubleException(Trouble.NOT_ALLOWED, "is outside the folder that the configuration names");
        }
        try {
            return Files.createDirectories(folder);
        } catch (IOException e) {
            throw unusable(e);
        }
    }

    static TroubleException unusable(IOException e) {
        return new TroubleException(Trouble.AWAY, "cannot be written to: " + e.getMessage());
    }
}
