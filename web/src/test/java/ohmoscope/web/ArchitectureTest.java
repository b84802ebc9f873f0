package ohmoscope.web;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

class ArchitectureTest {
    private static final JavaClasses ALL = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("ohmoscope");

    @Test
    void whatIsBelowTheWebDoesNotKnowIt() {
        noClasses()
                .that()
                .resideInAnyPackage("ohmoscope.core..", "ohmoscope.formats..", "ohmoscope.sim..", "ohmoscope.bench..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("ohmoscope.web..", "org.springframework..", "java.sql..", "jakarta..")
                .check(ALL);
    }

    @Test
    void formatsDoNotKnowTheBench() {
        noClasses()
                .that()
                .resideInAPackage("ohmoscope.formats..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("ohmoscope.sim..", "ohmoscope.bench..")
                .check(ALL);
    }

    @Test
    void theSimulatorKnowsNoDemo() {
        noClasses()
                .that()
                .resideInAPackage("ohmoscope.sim..")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("ohmoscope.bench..")
                .check(ALL);
    }

    @Test
    void aShopsServerCarriesNothingItIsMeasuredOn() {
        assertThat(ALL).noneMatch(type -> type.getPackageName().startsWith("ohmoscope.trials"));
    }

    @Test
    void theInnerRoomsOfLocateAreItsOwn() {
        noClasses()
                .that()
                .resideOutsideOfPackage("ohmoscope.core.locate..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "ohmoscope.core.locate.capture",
                        "ohmoscope.core.locate.model",
                        "ohmoscope.core.locate.fit",
                        "ohmoscope.core.locate.posterior")
                .check(ALL);
    }

    @Test
    void sqlLivesInTheStore() {
        noClasses()
                .that()
                .resideInAPackage("ohmoscope.web..")
                .and()
                .resideOutsideOfPackage("ohmoscope.web.store")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("java.sql..", "org.springframework.jdbc..")
                .check(ALL);
    }

    @Test
    void controllersHoldNoArithmeticOfTheJob() {
        noClasses()
                .that()
                .haveSimpleNameEndingWith("Controller")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("ohmoscope.core.heat..", "ohmoscope.core.inject..")
                .check(ALL);
    }

    @Test
    void featuresFormNoRing() {
        slices().matching("ohmoscope.web.(*)..").should().beFreeOfCycles().check(ALL);
    }
}
