package yoru.server.visitors;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.Base64;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.platform.SignedTexts;
import yoru.server.systems.Connections;
import yoru.server.systems.SystemKind;

/**
 * The codes by which buyers come to the page about their order: the shop makes them with the secret that it signs its
 * reports with, so that nobody else can, and the order need not have arrived yet.
 */
@Component
class ThanksCodes {

    private final Connections connections;

    ThanksCodes(Connections connections) {
        this.connections = connections;
    }

    /** The order's id; nothing where no shop made the code. */
    @Transactional(readOnly = true)
    public Optional<String> order(String code) {
        int dot = code.lastIndexOf('.');
        if (dot < 1) {
            return Optional.empty();
        }
        var order = code.substring(0, dot);
        var given = code.substring(dot + 1).getBytes(StandardCharsets.UTF_8);
        boolean isGenuine = connections.all().stream()
                .filter(connection -> connection.kind() == SystemKind.SHOP && connection.isOn())
                .flatMap(connection -> connections.place(connection).secrets().stream())
                .map(secret -> MessageDigest.isEqual(signature(secret, order), given))
                .reduce(
                        false,
                        Boolean::logicalOr); // all are looked at, so that nothing is learnt from how long it took
        return isGenuine ? Optional.of(order) : Optional.empty();
    }

    private static byte[] signature(String secret, String order) {
        return Base64.getUrlEncoder()
                .withoutPadding()
                .encode(SignedTexts.mac(secret.getBytes(StandardCharsets.UTF_8), "thanks " + order));
    }
}
