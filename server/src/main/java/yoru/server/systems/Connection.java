package yoru.server.systems;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Optional;
import org.hibernate.annotations.DynamicUpdate;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A connected system. */
@Entity
@DynamicUpdate // what somebody else changes at the same moment stays
@Table(name = "connection")
public class Connection {

    @Id
    String id;

    @Enumerated(EnumType.STRING)
    SystemKind kind;

    String title;
    String address;

    @Enumerated(EnumType.STRING)
    State state;

    /** Encrypted: signs what the system sends, or what is sent to it. */
    byte @Nullable [] signingSecret;

    /** Encrypted: the secret before, still good for a while. */
    byte @Nullable [] formerSecret;

    @Nullable
    Instant formerSecretUntil;

    @Nullable
    Instant secretAt;

    /** Encrypted: lets Yoru in at the system. */
    byte @Nullable [] token;

    /** What else is set, as JSON: names and texts. */
    @JdbcTypeCode(SqlTypes.JSON)
    String settings;

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

    Connection(String id, SystemKind kind, String title, String address, State state) {
        this.id = id;
        this.kind = kind;
        this.title = title;
        this.address = address;
        this.state = state;
        this.settings = "{}";
    }

    /** Whether a connection is in use. */
    public enum State {
        /** Tells nothing and hears nothing. */
        OFF,
        /** What comes in is kept and shown, and has no effect yet. */
        TRYING,
        ON
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

    public State state() {
        return state;
    }

    public boolean isOn() {
        return state == State.ON;
    }

    /** When its secret was last changed. */
    public Optional<Instant> secretAt() {
        return Optional.ofNullable(secretAt);
    }

    /** Until when the secret before is still good. */
    public Optional<Instant> formerSecretUntil() {
        return Optional.ofNullable(formerSecretUntil);
    }

    public boolean hasToken() {
        return token != null;
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
