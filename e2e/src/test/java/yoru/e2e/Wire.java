package yoru.e2e;

import java.io.Closeable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.concurrent.ThreadLocalRandom;

/** A wire between the servers and a system, which can be cut in the middle of an answer. */
final class Wire implements Closeable {

    private final ServerSocket near;
    private final int far;
    private volatile boolean cut;

    private Wire(ServerSocket near, int far) {
        this.near = near;
        this.far = far;
    }

    static Wire to(int far) {
        try {
            var wire = new Wire(new ServerSocket(School.freePort(), 200, InetAddress.getLoopbackAddress()), far);
            Thread.ofVirtual().start(wire::connect);
            return wire;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    int port() {
        return near.getLocalPort();
    }

    /** From now on half of all answers break off after a few bytes. */
    void cutAnswers(boolean cut) {
        this.cut = cut;
    }

    private void connect() {
        while (!near.isClosed()) {
            try {
                var asking = near.accept();
                Thread.ofVirtual().start(() -> join(asking));
            } catch (IOException e) {
                return; // closed
            }
        }
    }

    private void join(Socket asking) {
        try (asking;
                var answering = new Socket(InetAddress.getLoopbackAddress(), far)) {
            var back = Thread.ofVirtual().start(() -> carry(answering, asking, true));
            carry(asking, answering, false);
            back.join();
        } catch (IOException e) {
            // the far end is away: so is the near one
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void carry(Socket from, Socket to, boolean answer) {
        var bytes = new byte[8192];
        try {
            for (int read = from.getInputStream().read(bytes);
                    read >= 0;
                    read = from.getInputStream().read(bytes)) {
                boolean broken = answer && cut && ThreadLocalRandom.current().nextBoolean();
                to.getOutputStream()
                        .write(bytes, 0, broken ? ThreadLocalRandom.current().nextInt(read) : read);
                if (broken) {
                    from.close();
                    to.close();
                }
            }
            to.shutdownOutput();
        } catch (IOException e) {
            closeBoth(from, to);
        }
    }

    private static void closeBoth(Socket one, Socket other) {
        try (one;
                other) {
            // only closed
        } catch (IOException e) {
            // as good as closed
        }
    }

    @Override
    public void close() {
        try {
            near.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
