package yoru.cli;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import yoru.core.ledger.ByCodePoint;

/** Rows of several batches, each in the order of its people, written out in the order of all people. */
final class Rows implements AutoCloseable {

    /** All that is to be written of one person, who is in one batch only. */
    record Row(String person, String text) {}

    private final List<Path> batches = new ArrayList<>();

    /** @param rows in code point order of person */
    void add(Iterable<Row> rows) throws IOException {
        var file = java.nio.file.Files.createTempFile("yoru-rows", null);
        batches.add(file);
        try (var out = new DataOutputStream(new BufferedOutputStream(java.nio.file.Files.newOutputStream(file)))) {
            for (Row row : rows) {
                write(row.person, out);
                write(row.text, out);
            }
        }
    }

    void writeTo(OutputStream out) throws IOException {
        var next = new PriorityQueue<Batch>(Comparator.comparing(batch -> batch.row.person, ByCodePoint.ORDER));
        try {
            for (Path file : batches) {
                var batch = new Batch(file);
                if (batch.advance()) {
                    next.add(batch);
                }
            }
            while (!next.isEmpty()) {
                var batch = next.remove();
                out.write(batch.row.text.getBytes(StandardCharsets.UTF_8));
                if (batch.advance()) {
                    next.add(batch);
                }
            }
        } finally {
            for (Batch batch : next) {
                batch.in.close();
            }
        }
    }

    @Override
    public void close() throws IOException {
        for (Path file : batches) {
            java.nio.file.Files.deleteIfExists(file);
        }
    }

    private static void write(String text, DataOutputStream out) throws IOException {
        var bytes = text.getBytes(StandardCharsets.UTF_8);
        out.writeInt(bytes.length);
        out.write(bytes);
    }

    /** One batch, at the row that comes next. */
    private static final class Batch {

        private final DataInputStream in;
        private Row row = new Row("", "");

        Batch(Path file) throws IOException {
            in = new DataInputStream(new BufferedInputStream(java.nio.file.Files.newInputStream(file)));
        }

        boolean advance() throws IOException {
            try {
                row = new Row(read(), read());
                return true;
            } catch (EOFException e) {
                in.close();
                return false;
            }
        }

        private String read() throws IOException {
            return new String(in.readNBytes(in.readInt()), StandardCharsets.UTF_8);
        }
    }
}
