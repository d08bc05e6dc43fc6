package yoru.server.exchange;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Semaphore;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;
import yoru.formats.imports.ImportKind;
import yoru.formats.imports.ImportMatching;
import yoru.formats.imports.RosterRows;
import yoru.formats.matching.RowReader;
import yoru.server.accounts.SignedIn;
import yoru.server.platform.ProblemException;
import yoru.server.platform.TooManyException;
import yoru.server.platform.Utf8;

/** Tables of the past that are brought in (docs/formats/imports.md). */
@RestController
class ImportController {

    /** Of what is unpacked; what comes in is limited before it is read. */
    private static final int LARGEST = 50_000_000;

    private final Imports imports;
    private final Semaphore uploading = new Semaphore(1);

    ImportController(Imports imports) {
        this.imports = imports;
    }

    record Matched(
            @NotNull Map<ImportKind.Field, @Size(max = 200) String> columns,
            @NotNull ImportMatching.Dates dates) {}

    @GetMapping("/api/imports")
    List<Imports.ListedImport> latest() {
        return imports.latest();
    }

    @GetMapping("/api/imports/{id}")
    Imports.ShownImport one(@PathVariable long id) {
        return imports.one(id);
    }

    /** A table as CSV. */
    @PostMapping(path = "/api/imports", consumes = "text/csv")
    @ResponseStatus(HttpStatus.CREATED)
    Imports.ShownImport upload(
            @RequestParam ImportKind kind,
            @RequestParam @Size(max = 200) String name,
            HttpServletRequest request,
            @AuthenticationPrincipal SignedIn operator)
            throws IOException {
        return oneAtATime(request, file -> {
            try (var rows = new RowReader(Files.newBufferedReader(file))) {
                return imports.upload(kind, name, rows.columns(), rows, operator.name());
            }
        });
    }

    /** A roster as a ZIP of OneRoster 1.1 CSV. */
    @PostMapping(path = "/api/imports", consumes = "application/zip")
    @ResponseStatus(HttpStatus.CREATED)
    Imports.ShownImport uploadRoster(
            @RequestParam @Size(max = 200) String name,
            HttpServletRequest request,
            @AuthenticationPrincipal SignedIn operator)
            throws IOException {
        return oneAtATime(request, file -> {
            var rows = RosterRows.of(unzipped(file));
            return imports.upload(
                    ImportKind.ENROLMENTS, name, rows.columns(), rows.rows().iterator(), operator.name());
        });
    }

    /**
     * A table goes through memory some rows at a time, a roster as a whole. On the disk first: whoever sends slowly must not
     * hold a connection to the database meanwhile.
     */
    private Imports.ShownImport oneAtATime(HttpServletRequest request, Upload upload) throws IOException {
        if (!uploading.tryAcquire()) {
            throw new TooManyException("Another file is being read at this moment.", Duration.ofSeconds(10));
        }
        try {
            var file = Files.createTempFile("yoru-import", "");
            try {
                Files.copy(request.getInputStream(), file, StandardCopyOption.REPLACE_EXISTING);
                return upload.of(file);
            } finally {
                Files.delete(file);
            }
        } finally {
            uploading.release();
        }
    }

    @FunctionalInterface
    private interface Upload {
        Imports.ShownImport of(Path file) throws IOException;
    }

    private static ProblemException tooLarge() {
        return new ProblemException(
                HttpStatus.CONTENT_TOO_LARGE,
                "Too large",
                "A file has at most %d MB. Bring it in in parts.".formatted(LARGEST / 1_000_000));
    }

    /** The files by their names without folders; as much as a file may be, also when it is unpacked. */
    private static Map<String, String> unzipped(Path zip) throws IOException {
        Map<String, String> files = new HashMap<>();
        int left = LARGEST;
        try (var in = new ZipInputStream(Files.newInputStream(zip))) {
            for (var entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                var content = in.readNBytes(left + 1);
                left -= content.length;
                if (left < 0) {
                    throw tooLarge();
                }
                var name = entry.getName();
                files.put(name.substring(name.lastIndexOf('/') + 1), Utf8.ofFile(content));
            }
        } catch (ZipException e) {
            throw new UnreadableException(List.of(new Fault("", "is no ZIP: " + e.getMessage())));
        }
        if (files.isEmpty()) {
            throw new UnreadableException(List.of(new Fault("", "is no ZIP with files in it")));
        }
        return files;
    }

    @PutMapping("/api/imports/{id}/matching")
    Imports.ImportPreview match(@PathVariable long id, @Valid @RequestBody Matched matched) {
        return imports.match(id, new ImportMatching(matched.columns, matched.dates));
    }

    @PostMapping("/api/imports/{id}/start")
    Imports.ShownImport start(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        return imports.start(id, operator.name());
    }

    @PostMapping("/api/imports/{id}/stop")
    Imports.ShownImport stop(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        return imports.stop(id, operator.name());
    }

    @DeleteMapping("/api/imports/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void forget(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        imports.forget(id, operator.name());
    }

    /** The rows that were not taken, and why. */
    @GetMapping(path = "/api/imports/{id}/faulty.csv", produces = "text/csv")
    ResponseEntity<String> faulty(@PathVariable long id) {
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"to-mend-" + id + ".csv\"")
                .body(imports.faulty(id));
    }
}
