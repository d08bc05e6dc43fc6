package yoru.cli;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.formats.FactReader;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/**
 * A ledger in a file, one fact on a line, in any order. A small one is kept in memory; a larger one is parted into
 * pieces on disk, each with all facts of some people, so that memory holds one piece at a time.
 */
final class LedgerFile implements AutoCloseable {

    /** So many facts are worked on at once. */
    private static final int PIECE = 100_000;

    /** So many faults are told; the rest is counted. */
    private static final int FAULTS = 1_000;

    private final String name;
    private final int piece;
    private final List<Fact> few = new ArrayList<>();
    private final List<byte[]> fewLines = new ArrayList<>();
    private final Groups groups = new Groups();
    private final List<String> faults = new ArrayList<>();
    private int[] groupOfFact = new int[1024];
    private int count;
    private int faulty;
    private @Nullable Path folder;
    private @Nullable DataOutputStream lines;

    private LedgerFile(String name, int piece) {
        this.name = name;
        this.piece = piece;
    }

    /**
     * Reads all of it once.
     *
     * @throws UnusableException naming the lines at fault
     */
    static LedgerFile read(String name, InputStream in) throws IOException {
        return read(name, in, PIECE);
    }

    static LedgerFile read(String name, InputStream in, int piece) throws IOException {
        var file = new LedgerFile(name, piece);
        try {
            file.readAll(in);
        } catch (IOException | RuntimeException e) {
            file.close();
            throw e;
        }
        return file;
    }

    private void readAll(InputStream in) throws IOException {
        var reader = new Lines(in);
        for (byte[] line = reader.next(); line != null; line = reader.next()) {
            try {
                add(FactReader.read(line), line);
            } catch (UnreadableException e) {
                for (Fault fault : e.faults()) {
                    faulty++;
                    if (faulty <= FAULTS) {
                        faults.add(UnusableException.line(Files.shown(name), "line " + reader.number() + ": ", fault));
                    }
                }
            }
        }
        if (lines != null) {
            lines.close();
        }
        if (faulty > FAULTS) {
            faults.add("%s: and %d faults more".formatted(Files.shown(name), faulty - FAULTS));
        }
        if (faulty > 0) {
            throw new UnusableException(faults);
        }
    }

    private void add(Fact fact, byte[] line) throws IOException {
        if (count == groupOfFact.length) {
            groupOfFact = Arrays.copyOf(groupOfFact, count * 2);
        }
        groupOfFact[count] = groups.add(fact);
        count++;
        if (count <= piece) {
            few.add(fact);
            fewLines.add(line);
        } else {
            writeDown(line);
        }
    }

    /** There are too many: from now on, and what was read before, on disk. */
    private void writeDown(byte[] line) throws IOException {
        if (lines == null) {
            folder = java.nio.file.Files.createTempDirectory("yoru-ledger");
            lines = output(folder.resolve("all"));
            for (byte[] earlier : fewLines) {
                write(earlier, lines);
            }
            few.clear();
            fewLines.clear();
        }
        write(line, lines);
    }

    private static void write(byte[] line, DataOutputStream out) throws IOException {
        out.writeInt(line.length);
        out.write(line);
    }

    /** The ledger in parts, of which each holds all that is to be known of its people. */
    Stream<Ledger> parts() throws IOException {
        if (count <= piece) {
            return Stream.of(Ledger.of(few));
        }
        fewLines.clear();
        int[] sizes = part((count + piece - 1) / piece);
        return Stream.iterate(0, part -> part < sizes.length, part -> part + 1).map(part -> ledger(part, sizes[part]));
    }

    /** @return how many facts each part has */
    private int[] part(int parts) throws IOException {
        var sizes = new int[parts];
        var outputs = new ArrayList<DataOutputStream>();
        try (var in = input(folder().resolve("all"))) {
            for (int part = 0; part < parts; part++) {
                outputs.add(output(folder().resolve("part-" + part)));
            }
            for (int fact = 0; fact < count; fact++) {
                int part = Math.floorMod(groups.group(groupOfFact[fact]) * 0x9E3779B9, parts);
                write(in.readNBytes(in.readInt()), outputs.get(part));
                sizes[part]++;
            }
        } finally {
            for (var out : outputs) {
                out.close();
            }
        }
        return sizes;
    }

    private Ledger ledger(int part, int size) {
        var facts = new ArrayList<Fact>(size);
        try (var in = input(folder().resolve("part-" + part))) {
            for (int fact = 0; fact < size; fact++) {
                facts.add(FactReader.read(in.readNBytes(in.readInt())));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return Ledger.of(facts);
    }

    private Path folder() {
        return Objects.requireNonNull(folder);
    }

    private static DataOutputStream output(Path file) throws IOException {
        return new DataOutputStream(new BufferedOutputStream(java.nio.file.Files.newOutputStream(file), 1 << 15));
    }

    private static DataInputStream input(Path file) throws IOException {
        return new DataInputStream(new BufferedInputStream(java.nio.file.Files.newInputStream(file), 1 << 16));
    }

    @Override
    public void close() throws IOException {
        if (folder != null) {
            try (var files = java.nio.file.Files.walk(folder)) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    java.nio.file.Files.delete(file);
                }
            }
        }
    }
}
