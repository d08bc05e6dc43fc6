package yoru.cli;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** The lines of a file as bytes, one after the other; a line ends with LF, a CR before it is let go. */
final class Lines {

    private final InputStream in;
    private final byte[] buffer = new byte[1 << 16];
    private final ByteArrayOutputStream line = new ByteArrayOutputStream(1024);
    private int from;
    private int to;
    private int number;

    Lines(InputStream in) {
        this.in = in;
    }

    /** The number of the line last read, from 1 on. */
    int number() {
        return number;
    }

    /** The next line that is not blank; nothing at the end. */
    byte @Nullable [] next() throws IOException {
        while (advance()) {
            var bytes = line.toByteArray();
            if (!isBlank(bytes)) {
                return withoutMark(bytes);
            }
        }
        return null;
    }

    /** Reads one line, blank or not. */
    private boolean advance() throws IOException {
        line.reset();
        boolean any = false;
        while (from < to || fill()) {
            any = true;
            int end = from;
            while (end < to && buffer[end] != '\n') {
                end++;
            }
            line.write(buffer, from, end - from);
            boolean whole = end < to;
            from = whole ? end + 1 : end;
            if (whole) {
                break;
            }
        }
        number += any ? 1 : 0;
        return any;
    }

    private boolean fill() throws IOException {
        from = 0;
        to = Math.max(0, in.read(buffer));
        return to > 0;
    }

    private static boolean isBlank(byte[] bytes) {
        for (byte b : bytes) {
            if (b != ' ' && b != '\t' && b != '\r') {
                return false;
            }
        }
        return true;
    }

    /** Some programs begin a UTF-8 file with a byte order mark. */
    private byte[] withoutMark(byte[] bytes) {
        boolean marked = number == 1
                && bytes.length >= 3
                && bytes[0] == (byte) 0xEF
                && bytes[1] == (byte) 0xBB
                && bytes[2] == (byte) 0xBF;
        return marked ? Arrays.copyOfRange(bytes, 3, bytes.length) : bytes;
    }
}
