package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Beside;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Readings;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;

/**
 * OBJ in its text form, each object or group with its faces one part: every corner of a face must
 * name a point that is there. It carries neither length nor checksum, so a cut between two lines
 * shows only where faces miss their points.
 */
public final class ObjReader implements ShapeReader {
  @Override
  public boolean reads(String ext) {
    return ext.equals("obj");
  }

  @Override
  public Reading read(SeekableByteChannel in, Beside beside) throws IOException {
    return read(in, new MeshBuilder());
  }

  @Override
  public Shapes shapes(SeekableByteChannel in, Beside beside) throws IOException {
    MeshBuilder builder = new MeshBuilder();
    return read(in, builder).damaged() ? Shapes.NONE : builder.shapes();
  }

  private static Reading read(SeekableByteChannel in, MeshBuilder tally) throws IOException {
    Readings readings = new Readings("obj");
    if (in.size() == 0) {
      return readings.empty();
    }
    int[] corners = new int[64];
    String object = "";
    BufferedReader lines =
        new BufferedReader(new InputStreamReader(Bytes.from(in, 0), StandardCharsets.ISO_8859_1));
    long highest = 0;
    long line = 0;
    for (String raw = lines.readLine(); raw != null; raw = lines.readLine()) {
      line++;
      String text = raw.strip();
      if (text.indexOf('\0') >= 0) {
        return readings.broken(-1, "Line " + line + " holds zero bytes.");
      }
      if (text.startsWith("v ")) {
        String[] words = text.split("\\s+");
        if (words.length < 4 || !tally.point(words[1], words[2], words[3])) {
          return readings.broken(-1, "Line " + line + " is no point.");
        }
      } else if (text.startsWith("f ")) {
        String[] words = text.split("\\s+");
        corners = words.length > corners.length ? new int[words.length * 2] : corners;
        long top = corners(words, tally.points(), corners);
        if (top < 0) {
          return readings.broken(-1, "Line " + line + " is no face.");
        }
        highest = Math.max(highest, top);
        tally.face(corners, words.length - 1);
      } else if (text.startsWith("o ")) {
        object = text.substring(2).strip();
        tally.begin(object);
      } else if (text.startsWith("g ")) {
        String group = text.substring(2).strip();
        tally.begin(object.isEmpty() ? group : object + " · " + group);
      } else if (text.startsWith("usemtl ")) {
        tally.surface(text.substring(7).strip());
      } else if (text.startsWith("mtllib ")) {
        readings.link(new Link(text.substring(7).strip(), "material"));
      }
      tally.hash(text.getBytes(StandardCharsets.ISO_8859_1), text.length());
    }
    if (highest > tally.points()) {
      return readings.cutShort(
          in.size(), "A face names point " + highest + ", but there are " + tally.points() + ".");
    }
    if (Bytes.at(in, in.size() - 1, 1).get() != '\n') {
      readings.found(
          Finding.doubtful("no-line-end", in.size(), "Its last line has no end, as if cut."));
    }
    if (tally.points() == 0) {
      return readings.broken(0, "There is no point in it.");
    }
    return tally.into(readings);
  }

  /**
   * The points a face names, from 0, into {@code corners}.
   *
   * @return the highest, counted from 1; −1 if it is no face
   */
  private static long corners(String[] words, long points, int[] corners) {
    long highest = words.length < 4 ? -1 : 0;
    for (int i = 1; i < words.length && highest >= 0; i++) {
      int slash = words[i].indexOf('/');
      try {
        long told = Long.parseLong(slash < 0 ? words[i] : words[i].substring(0, slash));
        long corner = told < 0 ? points + told + 1 : told;
        highest = corner < 1 || corner > Integer.MAX_VALUE ? -1 : Math.max(highest, corner);
        corners[i - 1] = (int) (corner - 1);
      } catch (NumberFormatException noNumber) {
        return -1;
      }
    }
    return highest;
  }
}
