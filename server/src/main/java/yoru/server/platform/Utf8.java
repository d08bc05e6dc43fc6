package yoru.server.platform;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/** Reads texts that came from outside. */
public final class Utf8 {

    private Utf8() {}

    /** Nothing where it is not UTF-8, or has NUL in it, which PostgreSQL cannot keep. */
    public static Optional<String> read(byte[] bytes) {
        try {
            var text = StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
            return text.indexOf('\0') < 0 ? Optional.of(text) : Optional.empty();
        } catch (CharacterCodingException e) {
            return Optional.empty();
        }
    }

    /** The text of a file. @throws UnreadableException where it is none */
    public static String ofFile(byte[] file) {
        return read(file)
                .orElseThrow(
                        () -> new UnreadableException(List.of(new Fault("", "is not in UTF-8; save it as CSV UTF-8"))));
    }
}
