package dev.kavrin.demo;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.RetainedLeftovers;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.Reckoning;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.profile.ProgramProfile.Leftover;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.settings.Meaning;
import dev.kavrin.core.settings.SettingsKind;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.demo.Workday.Act;
import dev.kavrin.standin.Modeller;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.UUID;

/**
 * Three working days of the Tarnwick Incline, made by the stand-in program and Kavrin's real
 * capture engine on one simulated clock. Ends a quarter of an hour ago, with a crash in the middle
 * of a save.
 */
public final class DemoWorld {
  /** How long before now the crash falls. */
  public static final Duration CRASH_BEFORE_NOW = Duration.ofMinutes(15);

  private static final long SEED = 20_310_503L;
  private static final String ILSE = "Ilse Quarn";

  private final Path root;
  private final ZoneId zone;
  private final Random random = new Random(SEED);
  private final Disk disk = new RealDisk();
  private final SimClock clock;
  private final Instant crash;
  private final BackupFolder recovery;
  private final Publisher publisher;
  private final HealthCheck health = new HealthCheck(disk);
  private final Set<String> running = new HashSet<>();
  private Instant watchingSince;

  private DemoWorld(Path root, Instant now, ZoneId zone, String node) throws IOException {
    this.root = root;
    this.zone = zone;
    this.crash = now.minus(CRASH_BEFORE_NOW).truncatedTo(ChronoUnit.SECONDS);
    this.clock = new SimClock(crash.minus(Duration.ofDays(28)));
    this.publisher = new Publisher(disk, node);
    Path keep = root.resolve("keep");
    UUID uuid = seededId();
    Files.createDirectories(keep);
    new FolderMarker(uuid, "recovery", node, clock.instant()).write(disk, publisher, keep);
    this.recovery = BackupFolder.open(disk, keep, uuid, node);
  }

  /**
   * @param root an empty or absent folder
   * @param node id of the installation that will own the recovery folder
   */
  public static void make(Path root, Instant now, ZoneId zone, String node) throws IOException {
    new DemoWorld(root, now, zone, node).make();
  }

  private UUID seededId() {
    return new UUID(
        random.nextLong() & 0xFFFF_FFFF_FFFF_0FFFL | 0x7000L,
        random.nextLong() & 0x3FFF_FFFF_FFFF_FFFFL | 0x8000_0000_0000_0000L);
  }

  private void make() throws IOException {
    Path carriage = root.resolve("incline/carriage");
    Path station = root.resolve("incline/station");
    begin(carriage, "carriage-02.glb", Carriage.begun());
    begin(station, "summit-station.glb", station());
    Pictures.write(carriage.resolve("pictures"), clock.instant());
    Presets.write(root.resolve("incline/tools"), clock.instant());
    ProjectRecord stationProject =
        project("Summit station", "station", station, Duration.ofMinutes(15));
    ProjectRecord carriageProject =
        project("Carriage", "carriage", carriage, Duration.ofMinutes(10));
    Drafting drafting = new Drafting(root.resolve("incline/drawings"), clock, random);
    Kept drawings = keep(drawingsProject(), Drafting.SHEETS.toArray(String[]::new));
    draw(drafting, drawings);
    clock.jumpTo(crash.minus(Duration.ofHours(57)));
    HeatStudy study = new HeatStudy(root.resolve("incline/heat/brake-disc.setup.json"), clock);
    Kept heat = keep(heatProject(), "brake-disc.setup.json");
    Kept stations = keep(stationProject, "summit-station.glb");
    Kept carriages = keep(carriageProject, "carriage-02.glb");
    Workday day =
        new Workday(
            clock,
            random,
            () -> {
              carriages.incidents().tick(carriageProject);
              carriages.incidents().secure(carriageProject);
              carriages.watch().tick();
              stations.watch().tick();
              study.tick();
              heat.watch().tick();
            });

    Path model = carriage.resolve("carriage-02.glb");
    dayOne(day, model);
    gear();
    dayTwo(day, model, station.resolve("summit-station.glb"), study);
    dayThree(day, model, station.resolve("summit-station.glb"), carriages, study);
  }

  /** Weeks at the drawing board, with four crashes; the same folder is quiet in the last days. */
  private void draw(Drafting drafting, Kept drawings) throws IOException {
    for (int day = 27; day > 3; day--) {
      clock.jumpTo(crash.minus(Duration.ofDays(day)));
      boolean weekend = clock.instant().atZone(zone).getDayOfWeek().getValue() > 5;
      if (!weekend) {
        beginWatching();
        String sheet = Drafting.SHEETS.get(random.nextInt(Drafting.SHEETS.size()));
        running.add(Drafting.PROCESS);
        drafting.open(sheet);
        for (int saves = 14 + random.nextInt(10); saves > 0; saves--) {
          drafting.workOn(sheet);
          pass(Duration.ofMinutes(6 + random.nextInt(4)), Duration.ofMinutes(2), drawings);
        }
        running.remove(Drafting.PROCESS);
        if (day % 6 == 3) {
          drafting.dieWhileSaving(sheet);
          noticed(drawings, false);
          drafting.close(sheet);
          drafting.saveAgain(sheet);
        } else {
          drafting.close(sheet);
        }
        pass(Duration.ofMinutes(30), Duration.ofMinutes(10), drawings);
        watched();
      }
    }
  }

  private void pass(Duration time, Duration tick, Kept kept) throws IOException {
    for (Duration gone = Duration.ZERO; gone.compareTo(time) < 0; gone = gone.plus(tick)) {
      clock.advance(tick);
      kept.incidents().tick(kept.project());
      kept.incidents().secure(kept.project());
      kept.watch().tick();
    }
  }

  private void dayOne(Workday day, Path model) throws IOException {
    clock.jumpTo(crash.minus(Duration.ofHours(54)));
    beginWatching();
    Modeller modeller = start(model);
    day.work(
        modeller,
        300,
        295,
        List.of(
            new Act(40, "Fittings", "Grab pole"),
            new Act(95, "Brakes", "Brake hose"),
            new Act(170, "Brakes", "Brake lever"),
            new Act(296, "save", "")));
    stop(modeller);
  }

  private void gear() throws IOException {
    clock.jumpTo(crash.minus(Duration.ofHours(47)));
    beginWatching();
    WindingGear gear = new WindingGear(root.resolve("incline/gear"), clock);
    Kept kept = keep(gearProject(), WindingGear.FILE);
    for (int save = 0; save < 7; save++) {
      pass(Duration.ofMinutes(24), Duration.ofMinutes(2), kept);
      gear.save();
    }
    pass(Duration.ofMinutes(24), Duration.ofMinutes(2), kept);
    gear.carryAbout(crash.minus(Duration.ofHours(7)));
    gear.fromOldLaptop(crash.minus(Duration.ofDays(9)));
    watched();
  }

  private void dayTwo(Workday day, Path model, Path station, HeatStudy study) throws IOException {
    clock.jumpTo(crash.minus(Duration.ofHours(30)));
    study.start(0, 200, 1.0, Duration.ofSeconds(40));
    beginWatching();
    Modeller stations = new Modeller(station, settings(station), clock);
    stations
        .scene()
        .put("Ticket window", "Body", Shapes.moved(Shapes.box(0.8, 0.9, 0.1, 6), 1, 0.4, 2));
    stations.save();
    stations.close();
    Modeller modeller = start(model);
    day.work(
        modeller,
        380,
        350,
        List.of(
            new Act(120, "Brakes", "Brake rod"),
            new Act(200, "turn", "Coupling rod"),
            new Act(362, "save", ""),
            new Act(371, "remove", "Handrail outer"),
            new Act(376, "save", "")));
    stop(modeller);
  }

  private void dayThree(Workday day, Path model, Path station, Kept carriages, HeatStudy study)
      throws IOException {
    clock.jumpTo(crash.minus(Duration.ofMinutes(282)));
    beginWatching();
    withoutPlatform(station);
    Modeller first = start(model);
    day.work(first, 150, 140, List.of(new Act(60, "Brakes", "Brake hanger")));
    first
        .scene()
        .put("Trial lamp", "Fittings", Shapes.moved(Shapes.box(0.2, 0.2, 0.2, 4), 3.6, 1.4, 0));
    first.writeRescue();
    running.clear();
    clock.advance(Duration.ofSeconds(2));
    noticed(carriages, false);

    clock.jumpTo(crash.minus(Duration.ofMinutes(131)));
    Modeller second = start(model);
    study.start(120, 200, 0.85, Duration.ofSeconds(150));
    day.work(
        second,
        131,
        80,
        List.of(
            new Act(90, "save", ""),
            new Act(91, "Fittings", "Step plate"),
            new Act(103, "Brakes", "Brake shoe left"),
            new Act(113, "Brakes", "Brake shoe right")));
    second
        .scene()
        .put("Sand box", "Running gear", Shapes.moved(Shapes.box(0.4, 0.4, 0.4, 6), 3, -0.9, 0.3));
    second.dieWhileSaving(0.61);
    running.clear();
    clock.jumpTo(crash.plusSeconds(1));
    noticed(carriages, true);
  }

  private void noticed(Kept kept, boolean open) throws IOException {
    JournalEntry.IncidentSet incident =
        kept.incidents()
            .tick(kept.project())
            .orElseThrow(() -> new IllegalStateException("The crash went unnoticed"));
    if (!open) {
      recovery.record(
          new JournalEntry.IncidentSet(
              clock.instant(),
              incident.id(),
              incident.project(),
              incident.documents(),
              incident.from(),
              incident.to(),
              incident.kind(),
              incident.evidence(),
              false));
    }
    kept.watch().tick();
    watched();
  }

  private Modeller start(Path model) throws IOException {
    running.add(sheet().process());
    return new Modeller(model, settings(model), clock);
  }

  private void stop(Modeller modeller) throws IOException {
    modeller.close();
    running.clear();
    clock.advance(Duration.ofMinutes(20));
    watched();
  }

  private void beginWatching() throws IOException {
    watchingSince = clock.instant();
    watched();
  }

  private void watched() throws IOException {
    recovery.record(new JournalEntry.Watching(clock.instant(), watchingSince));
  }

  /** To see the hall alone, and then saved by habit. */
  private void withoutPlatform(Path station) throws IOException {
    Modeller stations = new Modeller(station, settings(station), clock);
    List.of("Canopy", "Platform", "Ticket window").forEach(stations.scene()::remove);
    stations.save();
    stations.close();
  }

  private static Path settings(Path model) {
    Path folder = model.getParent();
    return folder.resolveSibling("tools").resolve(folder.getFileName() + "-modeller.properties");
  }

  private static Scene station() {
    Scene scene = new Scene();
    scene.put("Hall", "Body", Shapes.box(8, 4, 5, 30));
    scene.put("Platform", "Body", Shapes.moved(Shapes.box(12, 0.3, 3, 30), 0, -2.1, 4));
    scene.put(
        "Winding wheel", "Running gear", Shapes.moved(Shapes.torus(1.2, 0.15, 64, 24), 0, 1, 0));
    scene.put("Canopy", "Body", Shapes.moved(Shapes.box(12, 0.1, 3.4, 20), 0, 2.2, 4));
    return scene;
  }

  private void begin(Path folder, String name, Scene scene) throws IOException {
    Files.createDirectories(folder);
    Path file = folder.resolve(name);
    Files.write(file, scene.toGlb());
    Files.setLastModifiedTime(file, java.nio.file.attribute.FileTime.from(clock.instant()));
    Files.createDirectories(settings(file).getParent());
    Files.writeString(
        settings(file),
        "# Tarn Modeller, how it keeps copies of its own\n"
            + "safety.copies = true\nsafety.minutes = 10\nsafety.slots = 3\n"
            + "safety.folder = .drafts\n");
  }

  /** What the stand-in's copies are called and where they lie, and where its settings do. */
  private static ProgramProfile sheet(Path settings) {
    return sheet()
        .linked(
            new SettingsLink(
                settings.toString(),
                SettingsKind.PROPERTIES,
                "",
                Map.of(
                    Meaning.ENABLED, "safety.copies",
                    Meaning.INTERVAL, "safety.minutes",
                    Meaning.COUNT, "safety.slots",
                    Meaning.FOLDER, "safety.folder"),
                SettingsLink.Unit.MINUTES,
                new SettingsLink.Wanted(true, Duration.ofMinutes(5), 3, null, null)))
        .with(List.of(Presets.FILES));
  }

  /** What the stand-in's copies are called and where they lie. */
  public static ProgramProfile sheet() {
    return new ProgramProfile(
        "Tarn Modeller",
        "dev.kavrin.standin.ModellerProcess",
        NamePattern.of(".{stem}.open"),
        Duration.ofMinutes(10),
        List.of(
            Leftover.of(CopyKind.AUTOSAVE, ".drafts", "{stem}~{n}.tmp"),
            Leftover.of(CopyKind.RESCUE, ".drafts", "{stem}.rescue"),
            Leftover.of(CopyKind.KEPT_BY_SAVE, ".", "{stem}.earlier")),
        null);
  }

  private ProjectRecord project(String name, String slug, Path folder, Duration interval) {
    Plan plan =
        Plan.every(
            interval,
            new Counts(24, Duration.ofDays(3), Duration.ofDays(30), Duration.ZERO, 0, 0),
            Duration.ofMinutes(30));
    return ProjectRecord.of(
        seededId(),
        name,
        slug,
        folder.toString(),
        List.of("*.glb"),
        sheet(settings(folder.resolve("any"))),
        plan,
        List.of(recovery.root().toString()),
        zone.getId());
  }

  private ProjectRecord heatProject() {
    return ProjectRecord.of(
            seededId(),
            "Brake-disc heat study",
            "heat",
            root.resolve("incline/heat").toString(),
            List.of("*.json"),
            ProgramProfile.UNKNOWN,
            HeatStudy.PLAN,
            List.of(recovery.root().toString()),
            zone.getId())
        .joining(List.of("*.setup.json"), HeatStudy.RULE);
  }

  private ProjectRecord gearProject() {
    return ProjectRecord.of(
        seededId(),
        "Winding gear",
        "gear",
        root.resolve("incline/gear").toString(),
        List.of("*.tgm"),
        WindingGear.program(),
        Plan.every(Duration.ofMinutes(40), Counts.newest(12), Duration.ofMinutes(60)),
        List.of(recovery.root().toString()),
        zone.getId());
  }

  private record Kept(ProjectRecord project, Watch watch, IncidentWatch incidents) {}

  private ProjectRecord drawingsProject() {
    return ProjectRecord.of(
        seededId(),
        "Track plan and sections",
        "drawings",
        root.resolve("incline/drawings").toString(),
        List.of("*.dxf"),
        Drafting.program(),
        Plan.every(
                Duration.ofMinutes(25),
                new Counts(6, Duration.ZERO, Duration.ofDays(30), Duration.ZERO, 0, 0),
                Duration.ofMinutes(45))
            .with(new Reckoning(Duration.ofMillis(3400), null)),
        List.of(recovery.root().toString()),
        zone.getId());
  }

  private Kept keep(ProjectRecord project, String... documents) throws IOException {
    recovery.record(new JournalEntry.ProjectSet(clock.instant(), ILSE, project));
    for (String document : documents) {
      recovery.record(
          new JournalEntry.DocumentSet(clock.instant(), seededId(), project.id(), document));
    }
    BackupFolders recoveries = BackupFolders.of(recovery);
    Processes processes = running::contains;
    BackupMaker maker = new BackupMaker(disk, publisher, health, recoveries, clock);
    Retention retention = new Retention(disk, publisher, recoveries, clock);
    return new Kept(
        project,
        new Watch(disk, recoveries, maker, retention, processes, Clockwork.steady(clock), project),
        new IncidentWatch(
            disk,
            recoveries,
            new RetainedLeftovers(disk, publisher, maker),
            health,
            processes,
            clock));
  }
}
