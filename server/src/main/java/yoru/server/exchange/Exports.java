package yoru.server.exchange;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.access.Access;
import yoru.core.rulebook.Target;
import yoru.formats.AccessCsv;
import yoru.formats.EndingsCalendar;
import yoru.formats.OneRosterCsv;
import yoru.formats.OneRosterCsv.Enrolment;
import yoru.formats.OneRosterCsv.Learner;
import yoru.formats.OneRosterCsv.Roster;
import yoru.formats.OneRosterCsv.RosterCourse;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;

/** Writes out who has what, as the engine computes it at a time. */
@Service
class Exports {

    private static final Duration PAST_ENDINGS = Duration.ofDays(30);
    private static final Duration ENDINGS_TO_COME = Duration.ofDays(366);

    private final LedgerReader ledger;
    private final Register register;
    private final Rulebooks rulebooks;
    private final SchoolSettings settings;
    private final Clock clock;

    Exports(LedgerReader ledger, Register register, Rulebooks rulebooks, SchoolSettings settings, Clock clock) {
        this.ledger = ledger;
        this.register = register;
        this.rulebooks = rulebooks;
        this.settings = settings;
        this.clock = clock;
    }

    private void access(Instant asOf, Consumer<Access> each) {
        var engine = rulebooks.current().engine();
        ledger.walkEverybody(asOf, history -> engine.access(history, asOf).forEach(each));
    }

    /** All windows of everybody, past and to come, as {@code ./yoru evaluate} writes them but for the order of people. */
    @Transactional(readOnly = true)
    public void accessCsv(Instant asOf, OutputStream out) throws IOException {
        try (Writer writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8))) {
            writer.write(AccessCsv.HEADER);
            access(asOf, one -> write(writer, AccessCsv.row(one)));
        } catch (UncheckedIOException e) {
            throw new IOException("whoever asked no longer listens", e);
        }
    }

    private static void write(Writer writer, String text) {
        try {
            writer.write(text);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Who is in which course, as a ZIP of OneRoster 1.1 CSV. */
    @Transactional(readOnly = true)
    public void roster(Instant asOf, OutputStream out) throws IOException {
        try (var zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
            for (var file : OneRosterCsv.files(roster(asOf)).entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                zip.write(file.getValue().getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
    }

    private Roster roster(Instant asOf) {
        var enrolled = new ArrayList<Access>();
        access(asOf, one -> {
            if (one.target() instanceof Target.OfCourse && one.state().isOpen()) {
                enrolled.add(one);
            }
        });
        var keys = new HashSet<String>();
        enrolled.forEach(one -> keys.add(one.person()));
        var people = register.people(keys);
        var year = day(asOf).withDayOfYear(1);
        return new Roster(
                settings.name(),
                year,
                year.plusYears(1),
                rulebooks.current().rulebook().courses().stream()
                        .map(course -> new RosterCourse(course.id(), course.title()))
                        .toList(),
                people.values().stream()
                        .map(person -> new Learner(
                                "person-" + person.id(),
                                person.key(),
                                person.name().equals(person.key()) ? "" : person.name()))
                        .sorted((a, b) -> a.address().compareTo(b.address()))
                        .toList(),
                enrolled.stream()
                        .flatMap(one ->
                                Optional.ofNullable(people.get(one.person()))
                                        .map(person -> enrolment(person, one))
                                        .stream())
                        .toList());
    }

    private Enrolment enrolment(Person person, Access access) {
        return new Enrolment(
                "person-" + person.id(),
                access.target().path().substring("course/".length()),
                day(access.window().start()),
                access.window().end().map(end -> day(end.minusNanos(1)).plusDays(1)));
    }

    private LocalDate day(Instant at) {
        return LocalDate.ofInstant(at, settings.zone());
    }

    /** What ended lately and what ends within a year, of courses and levels, as a calendar. */
    @Transactional(readOnly = true)
    public String endings() {
        var now = clock.instant();
        var rulebook = rulebooks.current().rulebook();
        var names = register.names();
        List<EndingsCalendar.Event> events = new ArrayList<>();
        access(
                now,
                one -> ending(one, now)
                        .ifPresent(end -> events.add(new EndingsCalendar.Event(
                                "%s %s %s".formatted(one.person(), one.target().path(), end),
                                end,
                                "%s: %s ends"
                                        .formatted(
                                                names.getOrDefault(one.person(), one.person()),
                                                rulebook.title(one.target())),
                                one.person() + (one.renews() ? "; goes on when it is paid for" : "")))));
        events.sort((a, b) -> a.at().compareTo(b.at()));
        return EndingsCalendar.write(settings.name() + ": endings", events, now);
    }

    private static Optional<Instant> ending(Access one, Instant now) {
        boolean shown = one.target() instanceof Target.OfCourse || one.target() instanceof Target.OfLevel;
        return one.window()
                .end()
                .filter(end ->
                        shown && end.isAfter(now.minus(PAST_ENDINGS)) && end.isBefore(now.plus(ENDINGS_TO_COME)));
    }
}
