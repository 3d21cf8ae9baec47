package dev.kavrin.core.content.archive;

import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.Unclosed;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Enumeration;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.io.output.CloseShieldOutputStream;

/** Entries of ZIP archives, packed as they were. */
public final class ZipParts implements PartWriter {
  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    Set<String> names = new HashSet<>();
    wanted.forEach(w -> names.addAll(w.parts()));
    Set<String> replaced = new HashSet<>();
    List<Brought> brought = new ArrayList<>();
    try (ZipFile present = open(base);
        ZipArchiveOutputStream zip =
            new ZipArchiveOutputStream(CloseShieldOutputStream.wrap(out))) {
      Enumeration<ZipArchiveEntry> entries = present.getEntriesInPhysicalOrder();
      while (entries.hasMoreElements()) {
        ZipArchiveEntry entry = entries.nextElement();
        if (names.contains(entry.getName())) {
          replaced.add(entry.getName());
        } else {
          zip.addRawArchiveEntry(entry, present.getRawInputStream(entry));
        }
      }
      for (Wanted some : wanted) {
        try (ZipFile from = open(some.from())) {
          for (String name : some.parts()) {
            ZipArchiveEntry entry = from.getEntry(name);
            if (entry == null) {
              throw new CannotTake(
                  name + " is no entry of that archive; take the entry it stands in.");
            }
            zip.addRawArchiveEntry(entry, from.getRawInputStream(entry));
            brought.add(new Brought(name, name, replaced.contains(name), List.of(), List.of()));
          }
        }
      }
    }
    return brought;
  }

  private static ZipFile open(Opened file) throws IOException {
    return ZipFile.builder().setSeekableByteChannel(new Unclosed(file.in())).get();
  }
}
