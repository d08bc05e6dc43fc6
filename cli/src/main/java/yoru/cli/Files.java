package yoru.cli;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.InvalidPathException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Function;
import yoru.core.rulebook.Rulebook;
import yoru.formats.Fault;
import yoru.formats.RulebookDocument;
import yoru.formats.UnreadableException;

/** What a command reads: files by their names, {@code -} for standard input. */
final class Files {

    private final InputStream standardInput;

    Files(InputStream standardInput) {
        this.standardInput = standardInput;
    }

    static boolean isStandardInput(String name) {
        return name.equals("-");
    }

    /** How the file is called in messages. */
    static String shown(String name) {
        return isStandardInput(name) ? "standard input" : name;
    }

    /** @throws UnusableException when it cannot be opened */
    InputStream open(String name) {
        if (isStandardInput(name)) {
            return standardInput;
        }
        try {
            return java.nio.file.Files.newInputStream(Path.of(name));
        } catch (IOException | InvalidPathException e) {
            throw unreadable(name, e);
        }
    }

    /** @throws UnusableException naming every fault */
    Rulebook rulebook(String name) {
        return document(name, RulebookDocument::read);
    }

    /**
     * A document as it is read from its text.
     *
     * @throws UnusableException naming every fault
     */
    <T> T document(String name, Function<String, T> read) {
        try (InputStream in = open(name)) {
            return read.apply(new String(in.readAllBytes(), StandardCharsets.UTF_8));
        } catch (UnreadableException e) {
            throw unusable(name, e.faults());
        } catch (IOException e) {
            throw unreadable(name, e);
        }
    }

    static UnusableException unusable(String name, List<Fault> faults) {
        return new UnusableException(faults.stream()
                .map(fault -> UnusableException.line(shown(name), "", fault))
                .toList());
    }

    static UnusableException unreadable(String name, Exception why) {
        var reason =
                why instanceof NoSuchFileException ? "there is no such file" : "cannot be read: " + why.getMessage();
        return new UnusableException(List.of(shown(name) + ": " + reason));
    }
}
