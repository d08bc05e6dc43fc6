package yoru.server.systems;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A connected system. */
@Entity
@Table(name = "connection")
public class Connection {

    @Id
    String id;

    @Enumerated(EnumType.STRING)
    SystemKind kind;

    String title;
    String address;

    /** Encrypted: signs what the system sends. */
    byte[] signingSecret;

    /** Encrypted: lets Yoru in at the system. */
    byte[] token;

    @Nullable
    Instant heardAt;

    @Nullable
    Instant catalogueAt;

    @Column(name = "catalogue_fault")
    @Nullable
    String catalogueFault;

    long refused;

    @SuppressWarnings("NullAway.Init")
    protected Connection() {}

    Connection(String id, SystemKind kind, String title, String address, byte[] signingSecret, byte[] token) {
        this.id = id;
        this.kind = kind;
        this.title = title;
        this.address = address;
        this.signingSecret = signingSecret;
        this.token = token;
    }

    public String id() {
        return id;
    }

    public SystemKind kind() {
        return kind;
    }

    public String title() {
        return title;
    }

    public String address() {
        return address;
    }

    /** When it last reported something. */
    public Optional<Instant> heardAt() {
        return Optional.ofNullable(heardAt);
    }

    public Optional<Instant> catalogueAt() {
        return Optional.ofNullable(catalogueAt);
    }

    /** Why its catalogue could not be read the last time. */
    public Optional<String> catalogueFault() {
        return Optional.ofNullable(catalogueFault);
    }

    /** How many reports were turned away for their signature. */
    public long refused() {
        return refused;
    }
}
