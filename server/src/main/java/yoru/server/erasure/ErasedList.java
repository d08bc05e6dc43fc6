package yoru.server.erasure;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HexFormat;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import yoru.server.platform.AfterCommit;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.SignedTexts;
import yoru.server.platform.YoruSettings;

/**
 * Who was erased, in a file apart from the database, for a backup from before an erasure knows them still. It has digests of
 * their keys that nobody can make or try without the installation's own key.
 */
@Component
public class ErasedList {

    private static final String PURPOSE = "erased ";

    private final byte[] key;
    private final @Nullable Path file;

    ErasedList(YoruSettings settings) {
        this.key = HexFormat.of().parseHex(settings.key());
        this.file = settings.erasedList();
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        if (file != null) {
            var lines = forgotten.forgetting().keys().stream().map(this::digest).toList();
            AfterCommit.run(() -> append(file, lines));
        }
    }

    private static void append(Path file, Iterable<String> lines) {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            Files.write(file, lines, StandardCharsets.US_ASCII, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Those of the keys whose people were erased. */
    public Set<String> of(Set<String> keys) {
        if (file == null || !Files.exists(file)) {
            return Set.of();
        }
        try {
            var erased = Set.copyOf(Files.readAllLines(file, StandardCharsets.US_ASCII));
            return keys.stream().filter(one -> erased.contains(digest(one))).collect(Collectors.toSet());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private String digest(String personKey) {
        return HexFormat.of().formatHex(SignedTexts.mac(key, PURPOSE + personKey));
    }
}
