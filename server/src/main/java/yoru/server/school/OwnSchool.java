package yoru.server.school;

import java.net.URI;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.accounts.SignedIn;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.AfterCommit;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;
import yoru.server.platform.SchoolSettings.Said;
import yoru.server.platform.YoruSettings;
import yoru.server.rulebooks.Rulebooks;

/** Changes what the school says of itself. */
@Service
class OwnSchool {

    private final SchoolSettings settings;
    private final YoruSettings installation;
    private final Rulebooks rulebooks;
    private final Journal journal;
    private final JdbcClient jdbc;
    private final Clock clock;

    OwnSchool(
            SchoolSettings settings,
            YoruSettings installation,
            Rulebooks rulebooks,
            Journal journal,
            JdbcClient jdbc,
            Clock clock) {
        this.settings = settings;
        this.installation = installation;
        this.rulebooks = rulebooks;
        this.journal = journal;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Whether zone and currency stay: every rulebook carries them, and everybody's endings were told by them. */
    @Transactional(readOnly = true)
    boolean isSettled() {
        return rulebooks.current().number() > 0;
    }

    @Transactional
    void change(Said wanted, SignedIn operator) {
        var before = settings.said();
        if (isSettled()
                && !(wanted.zone().equals(before.zone()) && wanted.currency().equals(before.currency()))) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "Zone and currency stay as they are",
                    "A rulebook was published under them, and everybody was told endings by them.");
        }
        keep(wanted, operator);
        AfterCommit.run(settings::changed);
        var changed = changed(before, wanted);
        if (!changed.isEmpty()) {
            journal.write(new Journal.Line(
                    Kind.OPERATOR,
                    "The school says otherwise who it is",
                    String.join(", ", changed),
                    operator.name(),
                    null,
                    null));
        }
    }

    private void keep(Said wanted, SignedIn operator) {
        int written = jdbc.sql("""
                        insert into school (name, zone, currency, public_address, version, changed_by, changed_at)
                        values (:name, :zone, :currency, :address, 1, :by, :at)
                        on conflict (only_one) do update set name = excluded.name, zone = excluded.zone,
                        currency = excluded.currency, public_address = excluded.public_address,
                        version = school.version + 1, changed_by = excluded.changed_by, changed_at = excluded.changed_at
                        where school.version = :version""")
                .param("name", wanted.name())
                .param("zone", wanted.zone().getId())
                .param("currency", wanted.currency().getCurrencyCode())
                .param("address", wanted.publicAddress())
                .param("by", operator.name())
                .param("at", java.sql.Timestamp.from(clock.instant()))
                .param("version", wanted.version())
                .update();
        if (written == 0) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "Somebody else has changed this",
                    "Look at what is there now, and say it again.");
        }
    }

    private static List<String> changed(Said before, Said wanted) {
        var changed = new ArrayList<String>();
        say(changed, "name", before.name(), wanted.name());
        say(changed, "zone", before.zone(), wanted.zone());
        say(changed, "currency", before.currency(), wanted.currency());
        say(changed, "address", before.publicAddress(), wanted.publicAddress());
        return changed;
    }

    private static void say(List<String> changed, String what, Object before, Object wanted) {
        if (!Objects.equals(before, wanted)) {
            changed.add("%s: %s, before %s".formatted(what, wanted, before));
        }
    }

    static ZoneId zone(String id) {
        try {
            var zone = ZoneId.of(id);
            if (ZoneId.getAvailableZoneIds().contains(id)) {
                return zone;
            }
        } catch (DateTimeException e) {
            // said below
        }
        throw wrong("zone", "is no zone of the tz database, such as Europe/Dublin");
    }

    static Currency currency(String code) {
        try {
            return Currency.getInstance(code);
        } catch (IllegalArgumentException e) {
            throw wrong("currency", "is no code of ISO 4217, such as EUR");
        }
    }

    /** Without a slash at its end. An encrypted one is only taken where it is said who takes its TLS: or no start would follow. */
    String address(String given) {
        var plain = given.strip().replaceAll("/+$", "");
        if (!isOrigin(plain)) {
            throw wrong("publicAddress", "is no address of a server, such as https://yoru.your-school.example");
        }
        if (plain.startsWith("https:") && installation.proxies().isEmpty()) {
            throw wrong(
                    "publicAddress",
                    "begins with https, and this server does not know who takes its TLS: set YORU_PROXIES, and start it again");
        }
        return plain;
    }

    private static boolean isOrigin(String address) {
        try {
            var uri = URI.create(address);
            return ("https".equals(uri.getScheme()) || "http".equals(uri.getScheme()))
                    && uri.getHost() != null
                    && uri.getRawUserInfo() == null
                    && Optional.ofNullable(uri.getRawPath()).orElse("").isEmpty()
                    && uri.getRawQuery() == null
                    && uri.getRawFragment() == null;
        } catch (IllegalArgumentException e) {
            return false;
        }
    }

    private static ProblemException wrong(String field, String problem) {
        return ProblemException.inField("The school was not changed", field, problem);
    }
}
