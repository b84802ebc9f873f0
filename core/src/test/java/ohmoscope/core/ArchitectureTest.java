package ohmoscope.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

class ArchitectureTest {
    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("ohmoscope.core");

    @Test
    void coreStandsAlone() {
        classes()
                .that()
                .resideInAPackage("ohmoscope.core..")
                .should()
                .onlyDependOnClassesThat()
                .resideInAnyPackage(
                        "ohmoscope.core..",
                        "java..",
                        "org.ejml..",
                        "org.hipparchus..",
                        "org.locationtech.jts..",
                        "org.jspecify..")
                .check(CORE);
    }

    @Test
    void packagesFormNoRing() {
        slices().matching("ohmoscope.core.(*)..").should().beFreeOfCycles().check(CORE);
    }

    @Test
    void eachRoomOfLocateUsesOnlyThoseBeforeIt() {
        layeredArchitecture()
                .consideringOnlyDependenciesInLayers()
                .layer("values")
                .definedBy("ohmoscope.core.locate")
                .layer("capture")
                .definedBy("ohmoscope.core.locate.capture")
                .layer("model")
                .definedBy("ohmoscope.core.locate.model")
                .layer("fit")
                .definedBy("ohmoscope.core.locate.fit")
                .layer("posterior")
                .definedBy("ohmoscope.core.locate.posterior")
                .layer("search")
                .definedBy("ohmoscope.core.locate.search")
                .whereLayer("capture")
                .mayOnlyBeAccessedByLayers("model", "fit", "posterior", "search")
                .whereLayer("model")
                .mayOnlyBeAccessedByLayers("fit", "posterior", "search")
                .whereLayer("fit")
                .mayOnlyBeAccessedByLayers("posterior", "search")
                .whereLayer("posterior")
                .mayOnlyBeAccessedByLayers("search")
                .whereLayer("search")
                .mayNotBeAccessedByAnyLayer()
                .check(CORE);
    }

    @Test
    void coreReadsNoFilesAndOpensNoSockets() {
        noClasses()
                .that()
                .resideInAPackage("ohmoscope.core..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("java.nio.file..", "java.net..", "java.sql..")
                .check(CORE);
    }
}
