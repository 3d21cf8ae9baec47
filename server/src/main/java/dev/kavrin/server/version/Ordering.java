package dev.kavrin.server.version;

import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.units.Span;
import dev.kavrin.core.version.Chronicle;
import dev.kavrin.core.version.VersionOrder;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.project.Document;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Puts the states of a document in the order of the work, by all that their copies tell. */
@Component
class Ordering {
  private final VersionRows.States states;
  private final VersionRows.Copies copies;
  private final VersionRows.Contents contents;
  private final Chronicle chronicle;

  Ordering(
      VersionRows.States states,
      VersionRows.Copies copies,
      VersionRows.Contents contents,
      Settings settings) {
    this.states = states;
    this.copies = copies;
    this.contents = contents;
    this.chronicle = new Chronicle(settings.zone());
  }

  /** Steps of runs have an order of their own and are left out. */
  @Transactional
  public void order(Document document, ProgramProfile sheet) {
    Map<Long, VersionRow> plain = new HashMap<>();
    states.findByDocumentIdIn(List.of(document.key())).stream()
        .filter(s -> s.run == null && s.role == null)
        .forEach(s -> plain.put(s.id, s));
    Map<Long, Inventory> known = new HashMap<>();
    List<Chronicle.Copy> told = new ArrayList<>();
    for (CopyRow copy : copies.findByDocumentIdInAndGoneIsNull(List.of(document.key()))) {
      VersionRow state = plain.get(copy.stateId);
      if (state != null) {
        boolean ours = CopyKind.valueOf(copy.sourceKind).isOurs();
        told.add(told(document, sheet, copy, state, ours ? Inventory.OPAQUE : inside(copy, known)));
      }
    }
    Map<String, VersionRow> byDigest = new HashMap<>();
    plain.values().forEach(s -> byDigest.put(s.manifestDigest, s));
    for (VersionOrder.Placed placed : chronicle.order(told)) {
      keep(byDigest.get(placed.state()), placed);
    }
  }

  private Inventory inside(CopyRow copy, Map<Long, Inventory> known) {
    return known.computeIfAbsent(
        copy.contentId,
        key ->
            contents
                .findById(key)
                .map(c -> c.inventory)
                .map(i -> VersionRecorder.MAPPER.readValue(i, Inventory.class))
                .orElse(Inventory.OPAQUE));
  }

  private static Chronicle.Copy told(
      Document document, ProgramProfile sheet, CopyRow copy, VersionRow state, Inventory inside) {
    boolean ours = CopyKind.valueOf(copy.sourceKind).isOurs();
    boolean seen =
        ours
            && (copy.originKind.equals(CopyKind.LIVE.name())
                || copy.sourceKind.equals(CopyKind.AS_WRITTEN.name()));
    Path origin = Path.of(copy.originPath);
    NamePattern pattern =
        seen
            ? null
            : Chronicle.pattern(
                sheet,
                CopyKind.valueOf(copy.originKind),
                origin.getFileName().toString(),
                document.live().getFileName().toString());
    NameFields fields = Chronicle.fields(pattern, origin.getFileName().toString());
    return new Chronicle.Copy(
        state.manifestDigest,
        origin,
        Moments.ofNanos(copy.modified),
        copy.since,
        Chronicle.isElsewhere(
            CopyKind.valueOf(copy.originKind), origin, pattern, folderOf(document)),
        pattern,
        pattern == null ? NameFields.of("", "") : fields,
        seen ? Span.at(Moments.ofNanos(copy.modified)) : null,
        inside.saved(),
        inside.step());
  }

  private static Path folderOf(Document document) {
    Path folder = document.live();
    for (int i = Path.of(document.path()).getNameCount(); i > 0; i--) {
      folder = folder.getParent();
    }
    return folder;
  }

  private void keep(VersionRow row, VersionOrder.Placed placed) {
    String contradictions =
        placed.contradictions().isEmpty()
            ? null
            : VersionRecorder.MAPPER.writeValueAsString(placed.contradictions());
    long at = Moments.nanos(placed.at());
    long lo = Moments.nanos(placed.work().lo());
    long hi = Moments.nanos(placed.work().hi());
    boolean same =
        Objects.equals(row.workAt, at)
            && row.workLo == lo
            && row.workHi == hi
            && placed.by().name().equals(row.toldBy)
            && Objects.equals(contradictions, row.contradictions)
            && row.orderKnown == placed.orderKnown();
    if (!same) {
      row.workAt = at;
      row.workLo = lo;
      row.workHi = hi;
      row.toldBy = placed.by().name();
      row.contradictions = contradictions;
      row.orderKnown = placed.orderKnown();
      states.save(row);
    }
  }
}
