package dev.kavrin.core.settings;

import static java.nio.charset.StandardCharsets.ISO_8859_1;
import static java.nio.charset.StandardCharsets.UTF_16BE;
import static java.nio.charset.StandardCharsets.UTF_16LE;
import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.naming.Surroundings;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.StringReader;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Duration;
import java.util.Map;
import java.util.Properties;
import javax.xml.parsers.DocumentBuilderFactory;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;
import tools.jackson.databind.json.JsonMapper;

/** Settings are read as independent parsers read them, and changed value by value alone. */
class SettingsTextTest {
  private static final String INI =
      "; kept\r\n[look]\r\ncolour = \"warm\"\r\n\r\n[copies]\r\nminutes=20 ; often\r\n on = no\r\n";

  private static SettingsText text(SettingsKind kind, String text) throws SettingsException {
    return SettingsText.of(text.getBytes(UTF_8), kind, "");
  }

  private static String set(SettingsText text, String key, String value) throws SettingsException {
    return new String(text.with(Map.of(key, value)).bytes(), UTF_8);
  }

  @Test
  void iniKeepsCommentsOrderQuotesAndLineEnds() throws SettingsException {
    SettingsText ini = text(SettingsKind.INI, INI);
    assertThat(ini.value("look/colour")).contains("warm");
    assertThat(ini.value("copies/minutes")).contains("20");
    assertThat(set(ini, "copies/minutes", "10")).isEqualTo(INI.replace("20", "10"));
    assertThat(set(ini, "look/colour", "cold")).isEqualTo(INI.replace("warm", "cold"));
    assertThat(set(ini, "copies/slots", "5"))
        .as("a missing key stands with its neighbours")
        .isEqualTo(INI + " slots = 5\r\n");
    assertThat(set(ini, "new/key", "1")).isEqualTo(INI + "[new]\r\nkey=1\r\n");
    String twice = "[a]\nk=1\nk=2\n";
    assertThat(text(SettingsKind.INI, twice).value("a/k")).contains("2");
    assertThat(set(text(SettingsKind.INI, twice), "a/k", "3")).isEqualTo("[a]\nk=3\nk=3\n");
  }

  /** What java.util.Properties reads is what was put in, for any value. */
  @Property(tries = 400)
  void propertiesAreReadByJavaAsTheyWereSet(@ForAll("values") String value) throws Exception {
    String before = "# safety\nsafety.minutes = 20\nsafety.folder: .drafts\nlast=1";
    SettingsText changed =
        text(SettingsKind.PROPERTIES, before)
            .with(Map.of("safety.folder", value, "safety.added", value));
    Properties read = new Properties();
    read.load(new StringReader(new String(changed.bytes(), UTF_8)));
    assertThat(read)
        .containsEntry("safety.folder", value)
        .containsEntry("safety.added", value)
        .containsEntry("safety.minutes", "20")
        .containsEntry("last", "1");
    assertThat(new String(changed.bytes(), UTF_8)).startsWith("# safety\nsafety.minutes = 20\n");
  }

  @Provide
  Arbitrary<String> values() {
    return Arbitraries.strings()
        .withChars("abcXYZ019./\\-_ äöß€'")
        .ofMinLength(1)
        .ofMaxLength(12)
        .filter(v -> v.equals(v.strip()) && !v.endsWith("\\") && !v.startsWith("'"));
  }

  /** Jackson's own tree of the changed text differs in that value alone. */
  @Property(tries = 400)
  void jsonIsReadByItsLibraryAsItWasSet(@ForAll("values") String value) throws Exception {
    String before =
        "{\n  \"look\": {\"hue\": 3},\n  \"safety\": {\n    \"folder\": \"a\\\"b\"\n  }\n}";
    JsonMapper mapper = new JsonMapper();
    SettingsText changed =
        text(SettingsKind.JSON, before)
            .with(Map.of("safety/folder", value, "safety/added", value, "look/hue", "4"));
    var tree = mapper.readTree(changed.bytes());
    assertThat(tree.at("/safety/folder").asString()).isEqualTo(value);
    var added = tree.at("/safety/added");
    assertThat(added.isNumber() ? added.asDouble() == Double.parseDouble(value) : true).isTrue();
    assertThat(added.isString() ? added.asString() : value).isEqualTo(value);
    assertThat(tree.at("/look/hue").isNumber()).isTrue();
    assertThat(tree.size()).isEqualTo(2);
  }

  @Test
  void jsonKeepsItsCommentsAndItsShape() throws SettingsException {
    String json = "{ // ours\n  \"a\": [1, {\"b\": true}], // last\n  \"c\": 5 // end\n}\n";
    SettingsText text = text(SettingsKind.JSON, json);
    assertThat(text.value("a/1/b")).contains("true");
    assertThat(set(text, "a/1/b", "false")).isEqualTo(json.replace("true", "false"));
    assertThat(set(text, "d", "1")).isEqualTo(json.replace("5 //", "5,\n  \"d\": 1 //"));
    assertThat(set(text(SettingsKind.JSON, "{}"), "d", "1")).isEqualTo("{ \"d\": 1}");
  }

  /** snakeyaml's own loader reads what was set. */
  @Property(tries = 400)
  void yamlIsReadByItsLibraryAsItWasSet(@ForAll("values") String value) throws Exception {
    String before =
        "# ours\nlook: {hue: 3}\nsafety:\n  folder: 'a'  # where\n  list:\n  - one\nlast: 1\n";
    SettingsText changed =
        text(SettingsKind.YAML, before)
            .with(Map.of("safety/folder", value, "safety/added", value, "look/hue", "4"));
    Map<?, ?> read =
        (Map<?, ?>)
            new Load(LoadSettings.builder().build())
                .loadFromString(new String(changed.bytes(), UTF_8));
    Map<?, ?> safety = (Map<?, ?>) read.get("safety");
    assertThat(safety.get("folder")).hasToString(value);
    assertThat(String.valueOf(safety.get("added")))
        .satisfiesAnyOf(
            v -> assertThat(v).isEqualTo(value),
            v -> assertThat(Double.parseDouble(v)).isEqualTo(Double.parseDouble(value)));
    assertThat(new String(changed.bytes(), UTF_8)).contains("# where").startsWith("# ours\n");
  }

  @Test
  void yamlAliasesAreLeftAlone() throws SettingsException {
    String yaml = "base: &b {every: 10}\nsafety:\n  like: *b\n  every: 20\n";
    SettingsText text = text(SettingsKind.YAML, yaml);
    assertThat(text.value("base/every")).contains("10");
    assertThat(text.value("safety/every")).contains("20");
    assertThat(set(text, "safety/every", "5")).isEqualTo(yaml.replace("20", "5"));
  }

  /** The JDK's own document builder reads what was set. */
  @Property(tries = 400)
  void xmlIsReadByTheJdkAsItWasSet(@ForAll("values") String value) throws Exception {
    String before =
        "<?xml version=\"1.0\"?>\n<set>\n  <!-- <folder>no</folder> -->\n"
            + "  <safety on=\"no\">\n    <folder>a &amp; b</folder>\n  </safety>\n"
            + "  <opt name=\"minutes\" value='20'/>\n</set>\n";
    SettingsText text = text(SettingsKind.XML, before);
    assertThat(text.value("set/safety/folder")).contains("a & b");
    SettingsText changed =
        text.with(
            Map.of(
                "set/safety/folder", value,
                "set/safety/@on", value,
                "set/safety/added", value,
                "set/opt[minutes]/@value", value));
    var root =
        DocumentBuilderFactory.newInstance()
            .newDocumentBuilder()
            .parse(new ByteArrayInputStream(changed.bytes()))
            .getDocumentElement();
    assertThat(root.getElementsByTagName("folder").item(0).getTextContent()).isEqualTo(value);
    assertThat(root.getElementsByTagName("added").item(0).getTextContent()).isEqualTo(value);
    assertThat(root.getElementsByTagName("safety").item(0).getAttributes().item(0).getNodeValue())
        .isEqualTo(value);
    assertThat(new String(changed.bytes(), UTF_8)).contains("<!-- <folder>no</folder> -->");
  }

  @Test
  void encodingsAndByteOrderMarksStay() throws SettingsException {
    String text = "folder=Gärten\r\nminutes=20\r\n";
    for (Charset charset : new Charset[] {UTF_8, UTF_16LE, UTF_16BE, ISO_8859_1}) {
      String mark = charset == ISO_8859_1 ? "" : "\uFEFF";
      byte[] before = (mark + text).getBytes(charset);
      SettingsText read = SettingsText.of(before, SettingsKind.INI, "");
      assertThat(read.value("folder")).as(charset.name()).contains("Gärten");
      assertThat(read.with(Map.of("minutes", "5")).bytes())
          .isEqualTo((mark + text.replace("20", "5")).getBytes(charset));
    }
    SettingsText latin = SettingsText.of(text.getBytes(ISO_8859_1), SettingsKind.INI, "");
    assertThatThrownBy(() -> latin.with(Map.of("folder", "漢")))
        .hasMessageContaining("does not know");
  }

  @Test
  void otherSeparatorsAndSingleValues() throws SettingsException {
    SettingsText lines =
        SettingsText.of("every 20\nfolder -> x\n".getBytes(UTF_8), SettingsKind.LINES, " ");
    assertThat(set(lines, "every", "5")).isEqualTo("every 5\nfolder -> x\n");
    SettingsText arrows =
        SettingsText.of("folder -> x\n".getBytes(UTF_8), SettingsKind.LINES, " -> ");
    assertThat(set(arrows, "folder", "y z")).isEqualTo("folder -> y z\n");
    SettingsText single = text(SettingsKind.SINGLE, "/mnt/keep\n");
    assertThat(set(single, "value", "/mnt/other")).isEqualTo("/mnt/other\n");
  }

  @Test
  void anExportedRegistryIsRead() throws SettingsException {
    String text =
        "Windows Registry Editor Version 5.00\r\n\r\n[HKEY_CURRENT_USER\\Software\\Tarn]\r\n"
            + "@=\"here\"\r\n\"Minutes\"=dword:0000000f\r\n\"Folder\"=\"C:\\\\tarn \\\"x\\\"\"\r\n"
            + "\"Window\"=hex:01,02\r\n[-HKEY_CURRENT_USER\\Software\\Old]\r\n";
    ByteArrayOutputStream marked = new ByteArrayOutputStream();
    marked.writeBytes(new byte[] {(byte) 0xFF, (byte) 0xFE});
    marked.writeBytes(text.getBytes(java.nio.charset.StandardCharsets.UTF_16LE));
    SettingsText read = SettingsText.of(marked.toByteArray(), SettingsKind.REGISTRY, "");
    String key = "HKEY_CURRENT_USER\\Software\\Tarn/";
    assertThat(read.value(key + "@")).contains("here");
    assertThat(read.value(key + "Minutes")).contains("15");
    assertThat(read.value(key + "Folder")).contains("C:\\tarn \"x\"");
    assertThat(read.entries()).hasSize(3);
    assertThatThrownBy(() -> read.with(Map.of(key + "Minutes", "5")))
        .hasMessageContaining("only read");
    assertThatThrownBy(() -> read.with(Map.of("new", "5"))).hasMessageContaining("only read");
  }

  @Test
  void aPropertyListIsReadAndItsDocumentTypeIsNeverFetched() throws SettingsException {
    SettingsText read =
        text(
            SettingsKind.PROPERTY_LIST,
            """
            <?xml version="1.0" encoding="UTF-8"?>
            <!DOCTYPE plist PUBLIC "-//none//DTD none//EN" "http://127.0.0.1:1/none.dtd">
            <plist version="1.0"><dict>
              <key>safety</key><dict>
                <key>on</key><true/><key>minutes</key><integer>15</integer></dict>
              <key>folders</key><array><string>/a</string><string> /b </string></array>
            </dict></plist>
            """);
    assertThat(read.value("safety/on")).contains("true");
    assertThat(read.value("safety/minutes")).contains("15");
    assertThat(read.value("folders/2")).contains("/b");
    assertThat(read.entries()).hasSize(4);
    assertThatThrownBy(() -> read.with(Map.of("safety/on", "false")))
        .hasMessageContaining("only read");
  }

  /** Written by the JDBC driver, with a log beside it and without. */
  @ParameterizedTest
  @ValueSource(strings = {"delete", "wal"})
  void aDatabaseOfKeysAndValuesIsRead(String log) throws Exception {
    Path file = Files.createTempDirectory("settings").resolve("settings.db");
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement s = c.createStatement()) {
      s.execute("pragma journal_mode=" + log);
      s.execute("create table preference (pref_key text primary key, value)");
      s.execute("insert into preference values ('safety.on', 1), ('safety.minutes', 15)");
      s.execute("create table window (width integer, height integer)");
      s.execute("insert into window values (1280, 800)");
      s.execute("create table recent (path text)");
      s.execute("insert into recent values ('/a'), ('/b')");
    }
    byte[] bytes = Files.readAllBytes(file);
    SettingsText read = SettingsText.of(bytes, SettingsKind.SQLITE, "");
    assertThat(read.value("preference/safety.on")).contains("1");
    assertThat(read.value("preference/safety.minutes")).contains("15");
    assertThat(read.value("window/width")).contains("1280");
    assertThat(read.entries()).hasSize(4);
    assertThat(read.bytes()).isEqualTo(bytes);
    assertThatThrownBy(() -> read.with(Map.of("window/width", "5")))
        .hasMessageContaining("only read");
  }

  @ParameterizedTest
  @CsvSource({
    "REGISTRY, 'a=1', exported registry",
    "PROPERTY_LIST, '<a/>', no property list",
    "PROPERTY_LIST, '<a', no XML",
    "SQLITE, 'a=1', SQLite database",
    "JSON, '{\"a\": ', no JSON",
    "YAML, 'a: [', no YAML",
    "XML, '<a><b></a>', no XML",
    "XML, '<!DOCTYPE a [<!ENTITY x SYSTEM \"/etc/passwd\">]><a>&x;</a>', document type",
    "SINGLE, 'one\ntwo', more than one line",
  })
  void whatIsNotWhatItClaimsIsToldAndNothingChanged(SettingsKind kind, String text, String words) {
    assertThatThrownBy(() -> text(kind, text))
        .isInstanceOf(SettingsException.class)
        .hasMessageContaining(words);
  }

  @Test
  void whatCannotBeWrittenIsRefused() throws SettingsException {
    SettingsText json = text(SettingsKind.JSON, "{\"a\": {\"b\": 1}}");
    assertThatThrownBy(() -> json.with(Map.of("x/y", "1"))).hasMessageContaining("no x");
    SettingsText ini = text(SettingsKind.INI, "a=1\n");
    assertThatThrownBy(() -> ini.with(Map.of("a", "1\n2"))).hasMessageContaining("one line");
    assertThatThrownBy(() -> ini.with(Map.of("a", "x ;y")))
        .hasMessageContaining("cannot be written");
  }

  private static SettingsLink link(SettingsLink.Wanted wanted) {
    return new SettingsLink(
        "~/modeller.conf",
        SettingsKind.PROPERTIES,
        "",
        Map.of(
            Meaning.ENABLED, "safety.copies",
            Meaning.INTERVAL, "safety.minutes",
            Meaning.COUNT, "safety.slots",
            Meaning.FOLDER, "safety.folder"),
        SettingsLink.Unit.MINUTES,
        wanted);
  }

  @Test
  void theAuditSaysWhatDiffersAndOffIsTheLoudest() throws SettingsException {
    SettingsText off = text(SettingsKind.PROPERTIES, "safety.minutes=20\nsafety.copies=False\n");
    SettingsAudit audit =
        SettingsAudit.of(
            link(new SettingsLink.Wanted(true, Duration.ofMinutes(10), 4, null, null)), off);
    assertThat(audit.lines())
        .extracting(SettingsAudit.Line::standing)
        .containsExactly(
            SettingsAudit.Standing.OFF,
            SettingsAudit.Standing.DIFFERS,
            SettingsAudit.Standing.MISSING,
            SettingsAudit.Standing.MISSING);
    assertThat(audit.writesEvery()).as("off, so only saves are written").isNull();
    assertThat(audit.changes())
        .isEqualTo(Map.of("safety.copies", "True", "safety.minutes", "10", "safety.slots", "4"));
    SettingsAudit right =
        SettingsAudit.of(
            link(new SettingsLink.Wanted(true, Duration.ofMinutes(10), 4, null, null)),
            off.with(audit.changes()));
    assertThat(right.changes()).isEmpty();
    assertThat(right.writesEvery()).isEqualTo(Duration.ofMinutes(10));
  }

  @Test
  void whatKeysMeanIsProposedFromTheFile() throws SettingsException {
    SettingsGuess ours =
        SettingsGuess.of(
            text(
                SettingsKind.PROPERTIES,
                "safety.copies=true\nsafety.minutes=10\nsafety.slots=3\nsafety.folder=.drafts\n"));
    assertThat(ours.keys()).isEqualTo(link(SettingsLink.Wanted.ON).keys());
    SettingsGuess other =
        SettingsGuess.of(
            text(
                SettingsKind.JSON,
                "{\"view\":{\"interval\":3},\"autoSave\":{\"enabled\":true,\"intervalSeconds\":300,"
                    + "\"maxFiles\":9,\"directory\":\"/tmp\",\"keepPrevious\":false}}"));
    assertThat(other.keys())
        .isEqualTo(
            Map.of(
                Meaning.ENABLED, "autoSave/enabled",
                Meaning.INTERVAL, "autoSave/intervalSeconds",
                Meaning.COUNT, "autoSave/maxFiles",
                Meaning.FOLDER, "autoSave/directory",
                Meaning.KEEP_EARLIER, "autoSave/keepPrevious"));
    assertThat(other.unit()).isEqualTo(SettingsLink.Unit.SECONDS);
  }

  @Test
  void homeAndVariablesAreFilledIn() {
    Path home = Path.of("/home/tove");
    SettingsLink at = link(SettingsLink.Wanted.ON);
    assertThat(at.resolved(new Surroundings(home, n -> null)))
        .isEqualTo(home.resolve("modeller.conf"));
    SettingsLink variable = new SettingsLink("$CONF/x", SettingsKind.INI, "", Map.of(), null, null);
    assertThat(variable.resolved(new Surroundings(home, n -> "/etc/y")))
        .isEqualTo(Path.of("/etc/y/x"));
    assertThatThrownBy(() -> variable.resolved(new Surroundings(home, n -> null)))
        .hasMessageContaining("not set");
    assertThatThrownBy(() -> variable.resolved(new Surroundings(home, n -> "y")))
        .hasMessageContaining("absolute");
  }
}
