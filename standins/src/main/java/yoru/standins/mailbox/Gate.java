package yoru.standins.mailbox;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import yoru.standins.practice.Manners;

/** Stands before the mail server and lets letters through as the mailbox behaves just now. */
final class Gate {

    private final Manners manners;
    private @Nullable ServerSocket socket;

    Gate(Manners manners) {
        this.manners = manners;
    }

    void open(int port, int behind) throws IOException {
        var listening = new ServerSocket(port, 50, InetAddress.getLoopbackAddress());
        socket = listening;
        Thread.ofVirtual().name("mail-gate").start(() -> {
            while (!listening.isClosed()) {
                try {
                    var caller = listening.accept();
                    Thread.ofVirtual().start(() -> serve(caller, behind));
                } catch (IOException e) {
                    // closed, or a caller that went away at once
                }
            }
        });
    }

    void close() throws IOException {
        if (socket != null) {
            socket.close();
        }
    }

    private void serve(Socket caller, int behind) {
        try (caller) {
            manners.dawdle();
            var now = manners.now();
            if (now.down()) {
                return;
            }
            if (now.busy() || manners.fails()) {
                var greeting = now.busy() ? "421 4.3.2 not so fast, please\r\n" : "554 5.3.0 bees in the server\r\n";
                caller.getOutputStream().write(greeting.getBytes(StandardCharsets.US_ASCII));
                return;
            }
            try (var server = new Socket(InetAddress.getLoopbackAddress(), behind)) {
                Thread.ofVirtual().start(() -> pass(caller, server));
                copy(server.getInputStream(), caller.getOutputStream());
            }
        } catch (IOException e) {
            // one side has gone; so does the other
        }
    }

    private static void pass(Socket from, Socket to) {
        try (to) {
            copy(from.getInputStream(), to.getOutputStream());
        } catch (IOException e) {
            // one side has gone; so does the other
        }
    }

    private static void copy(InputStream from, OutputStream to) throws IOException {
        var buffer = new byte[8192];
        for (int read = from.read(buffer); read >= 0; read = from.read(buffer)) {
            to.write(buffer, 0, read);
            to.flush();
        }
    }
}
