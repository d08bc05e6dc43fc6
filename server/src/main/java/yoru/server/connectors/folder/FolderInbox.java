package yoru.server.connectors.folder;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import yoru.server.systems.Connector.Inbox;

/** The folder {@code in} of a system's folder; what was read moves to {@code in/taken} or {@code in/refused}. */
class FolderInbox implements Inbox {

    /** A file that was written to just now may not be complete yet. */
    private static final Duration STILL_WRITTEN = Duration.ofSeconds(2);

    private static final long LARGEST = 64L * 1024 * 1024;

    private final Path in;
    private final Clock clock;

    FolderInbox(Path folder, Clock clock) {
        this.in = folder.resolve("in");
        this.clock = clock;
    }

    @Override
    public List<String> waiting() {
        if (!Files.isDirectory(in)) {
            return List.of();
        }
        try (var files = Files.list(in)) {
            return files.filter(this::isComplete)
                    .map(file -> file.getFileName().toString())
                    .filter(name -> name.toLowerCase(Locale.ROOT).endsWith(".csv"))
                    .sorted()
                    .toList();
        } catch (IOException e) {
            throw FolderConnector.unusable(e);
        }
    }

    private boolean isComplete(Path file) {
        try {
            return Files.isRegularFile(file)
                    && Files.size(file) <= LARGEST
                    && Files.getLastModifiedTime(file)
                            .toInstant()
                            .isBefore(clock.instant().minus(STILL_WRITTEN));
        } catch (IOException e) {
            return false; // it was taken away meanwhile
        }
    }

    @Override
    public byte[] read(String name) {
        try {
            return Files.readAllBytes(in.resolve(name));
        } catch (IOException e) {
            throw FolderConnector.unusable(e);
        }
    }

    @Override
    public void done(String name, @Nullable String toMend) {
        put(name, "taken", toMend == null ? null : name.replaceAll("(?i)\\.csv$", "") + "-to-mend.csv", toMend);
    }

    @Override
    public void refused(String name, String why) {
        put(name, "refused", name + ".txt", why + "\n");
    }

    private void put(String name, String where, @Nullable String besideName, @Nullable String beside) {
        try {
            var folder = Files.createDirectories(in.resolve(where));
            if (besideName != null && beside != null) {
                Files.writeString(folder.resolve(besideName), beside, StandardCharsets.UTF_8);
            }
            Files.move(in.resolve(name), folder.resolve(name), StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            throw FolderConnector.unusable(e);
        }
    }
}
