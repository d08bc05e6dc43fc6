package yoru.server.accounts;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.WriterException;
import com.google.zxing.qrcode.QRCodeWriter;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * A text as a QR code (ISO/IEC 18004), to be drawn as one path.
 *
 * @param size of one side, in modules, the quiet zone included
 * @param path as SVG has it ({@code d}), a square of side 1 for each dark module
 */
record QrPicture(int size, String path) {

    static QrPicture of(String text) {
        try {
            var modules = new QRCodeWriter().encode(text, BarcodeFormat.QR_CODE, 0, 0);
            int size = modules.getWidth();
            return new QrPicture(
                    size,
                    IntStream.range(0, size * size)
                            .filter(at -> modules.get(at % size, at / size))
                            .mapToObj(at -> "M%d %dh1v1h-1z".formatted(at % size, at / size))
                            .collect(Collectors.joining()));
        } catch (WriterException e) {
            throw new IllegalStateException(e);
        }
    }
}
