package yoru.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.dependencies.SlicesRuleDefinition;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZonedDateTime;
import org.junit.jupiter.api.Test;

/** The core knows no framework, no input or output, no clock. */
class PurityTests {

    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("yoru.core");

    @Test
    void dependsOnNothingButPlainJava() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideOutsideOfPackages(
                        "yoru.core..",
                        "java.lang..",
                        "java.math..",
                        "java.text..",
                        "java.time..",
                        "java.util..",
                        "org.jspecify..")
                .check(CORE);
    }

    @Test
    void knowsNoClock() {
        noClasses().should().callMethod(Instant.class, "now").check(CORE);
        noClasses().should().callMethod(LocalDate.class, "now").check(CORE);
        noClasses().should().callMethod(LocalDateTime.class, "now").check(CORE);
        noClasses().should().callMethod(ZonedDateTime.class, "now").check(CORE);
        noClasses().should().callMethod(System.class, "currentTimeMillis").check(CORE);
        noClasses().should().callMethod(System.class, "nanoTime").check(CORE);
        noClasses().should().dependOnClassesThat().areAssignableTo(Clock.class).check(CORE);
    }

    @Test
    void packagesFormNoCycle() {
        SlicesRuleDefinition.slices()
                .matching("yoru.core.(*)..")
                .should()
                .beFreeOfCycles()
                .check(CORE);
    }
}
