package yoru.cli;

import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** The lines of a file as bytes, one after the other; a line ends with LF, a CR before it is let go. */
final class Lines {

    private final InputStream in;
    private final ByteArrayOutputStream line = new ByteArrayOutputStream(1024);
    private int number;

    Lines(InputStream in) {
        this.in = new BufferedInputStream(in, 1 << 16);
    }

    /** The number of the line last read, from 1 on. */
    int number() {
        return number;
    }

    /** The next line that is not blank; nothing at the end. */
    byte @Nullable [] next() throws IOException {
        for (int at = in.read(); at >= 0; at = in.read()) {
            line.reset();
            boolean blank = true;
            while (at >= 0 && at != '\n') {
                blank &= at == ' ' || at == '\t' || at == '\r';
                line.write(at);
                at = in.read();
            }
            number++;
            if (!blank) {
                return withoutMark(line.toByteArray());
            }
            if (at < 0) {
                return null;
            }
        }
        return null;
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
