package yoru.server;

import java.io.ByteArrayOutputStream;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.MessageDigest;
import java.security.Signature;
import java.security.interfaces.ECPublicKey;
import java.security.spec.ECGenParameterSpec;
import java.util.Base64;
import java.util.UUID;
import tools.jackson.databind.JsonNode;

/**
 * A device that makes and shows a passkey, in this test's own words: W3C Web Authentication, level 2, 6.1 (what it signs),
 * 6.5.4 (what it says of a new key, format "none") and 5.8.1 (what the browser adds); RFC 9053, 7.1.1 for the key.
 */
class TestDevice {

    private static final int PRESENT = 0x01;
    private static final int VERIFIED = 0x04;
    private static final int WITH_KEY = 0x40;

    private final KeyPair keys;
    private final byte[] id = bytes(UUID.randomUUID());
    private final String origin;

    /** Counts what it signs; 0 as long as it does not count. */
    int count = 1;

    /** Whether it has seen who holds it. */
    boolean verifies = true;

    TestDevice(String origin) throws GeneralSecurityException {
        this.origin = origin;
        var generator = KeyPairGenerator.getInstance("EC");
        generator.initialize(new ECGenParameterSpec("secp256r1"));
        keys = generator.generateKeyPair();
    }

    /** RegistrationResponseJSON. */
    String make(JsonNode offered) throws GeneralSecurityException {
        var data = data(offered.path("rp").path("id").asString(), true);
        var attestation = new ByteArrayOutputStream();
        attestation.write(0xa3); // CBOR: a map of three
        attestation.writeBytes(text("fmt"));
        attestation.writeBytes(text("none"));
        attestation.writeBytes(text("attStmt"));
        attestation.write(0xa0);
        attestation.writeBytes(text("authData"));
        attestation.writeBytes(bytes(data));
        return """
                {"id": "%1$s", "rawId": "%1$s", "type": "public-key", "clientExtensionResults": {},
                 "response": {"clientDataJSON": "%2$s", "attestationObject": "%3$s", "transports": ["internal"]}}""".formatted(base64(id), base64(client("webauthn.create", offered)), base64(attestation.toByteArray()));
    }

    /** AuthenticationResponseJSON. */
    String show(JsonNode asked) throws GeneralSecurityException {
        var client = client("webauthn.get", asked);
        var data = data(asked.path("rpId").asString(), false);
        var signature = Signature.getInstance("SHA256withECDSA");
        signature.initSign(keys.getPrivate());
        signature.update(data);
        signature.update(sha256(client));
        return """
                {"id": "%1$s", "rawId": "%1$s", "type": "public-key", "clientExtensionResults": {},
                 "response": {"clientDataJSON": "%2$s", "authenticatorData": "%3$s", "signature": "%4$s"}}""".formatted(base64(id), base64(client), base64(data), base64(signature.sign()));
    }

    private byte[] client(String type, JsonNode question) {
        return """
                {"type": "%s", "challenge": "%s", "origin": "%s", "crossOrigin": false}""".formatted(type, question.path("challenge").asString(), origin)
                .getBytes(StandardCharsets.UTF_8);
    }

    private byte[] data(String party, boolean withKey) throws GeneralSecurityException {
        var data = new ByteArrayOutputStream();
        data.writeBytes(sha256(party.getBytes(StandardCharsets.UTF_8)));
        data.write(PRESENT | (verifies ? VERIFIED : 0) | (withKey ? WITH_KEY : 0));
        data.writeBytes(ByteBuffer.allocate(4).putInt(count == 0 ? 0 : count++).array());
        if (withKey) {
            data.writeBytes(new byte[16]); // no kind of device
            data.writeBytes(ByteBuffer.allocate(2).putShort((short) id.length).array());
            data.writeBytes(id);
            var point = ((ECPublicKey) keys.getPublic()).getW();
            // kty 2 (EC2), alg -7 (ES256), crv 1 (P-256), x, y
            data.writeBytes(new byte[] {(byte) 0xa5, 1, 2, 3, 0x26, 0x20, 1, 0x21});
            data.writeBytes(bytes(coordinate(point.getAffineX())));
            data.write(0x22);
            data.writeBytes(bytes(coordinate(point.getAffineY())));
        }
        return data.toByteArray();
    }

    private static byte[] coordinate(BigInteger number) {
        var all = new byte[32];
        var bytes = number.toByteArray();
        int many = Math.min(32, bytes.length);
        System.arraycopy(bytes, bytes.length - many, all, 32 - many, many);
        return all;
    }

    /** CBOR (RFC 8949, 3.1): a text shorter than 24 letters. */
    private static byte[] text(String text) {
        var out = new ByteArrayOutputStream();
        out.write(0x60 | text.length());
        out.writeBytes(text.getBytes(StandardCharsets.US_ASCII));
        return out.toByteArray();
    }

    /** CBOR: bytes, at most 255 of them. */
    private static byte[] bytes(byte[] bytes) {
        return ByteBuffer.allocate(2 + bytes.length)
                .put((byte) 0x58)
                .put((byte) bytes.length)
                .put(bytes)
                .array();
    }

    private static byte[] bytes(UUID id) {
        return ByteBuffer.allocate(16)
                .putLong(id.getMostSignificantBits())
                .putLong(id.getLeastSignificantBits())
                .array();
    }

    private static byte[] sha256(byte[] bytes) throws GeneralSecurityException {
        return MessageDigest.getInstance("SHA-256").digest(bytes);
    }

    private static String base64(byte[] bytes) {
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }
}
