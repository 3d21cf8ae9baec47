package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.LineBytes;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;

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
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    return new Model(in, new MeshBuilder()).read();
  }

  @Override
  public Shapes shapes(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    MeshBuilder builder = new MeshBuilder();
    return in.size() > MeshBuilder.MOST_BYTES || new Model(in, builder).read().damaged()
        ? Shapes.NONE
        : builder.shapes();
  }

  /** One pass through a file. */
  private static final class Model {
    private final SeekableByteChannel in;
    private final MeshBuilder mesh;
    private final Readings readings = new Readings("obj");
    private int[] corners = new int[64];
    private String object = "";
    private long highest;

    Model(SeekableByteChannel in, MeshBuilder mesh) {
      this.in = in;
      this.mesh = mesh;
    }

    Reading read() throws IOException {
      if (in.size() == 0) {
        return readings.empty();
      }
      LineBytes line = new LineBytes(mesh.hashed(Bytes.from(in, 0)));
      while (line.next()) {
        if (line.hasZeros()) {
          return readings.broken(-1, "Line " + line.number() + " holds zero bytes.");
        }
        String wrong = take(line);
        if (wrong != null) {
          return readings.broken(-1, "Line " + line.number() + " is " + wrong + ".");
        }
      }
      if (highest > mesh.points()) {
        return readings.cutShort(
            in.size(), "A face names point " + highest + ", but there are " + mesh.points() + ".");
      }
      if (!line.isEnded() && Bytes.at(in, in.size() - 1, 1).get() != '\n') {
        readings.found(
            Finding.doubtful("no-line-end", in.size(), "Its last line has no end, as if cut."));
      }
      if (mesh.points() == 0) {
        return readings.broken(0, "There is no point in it.");
      }
      return mesh.into(readings);
    }

    /** What is wrong with a line, null if nothing is. */
    private String take(LineBytes line) {
      int from = line.word(0);
      if (line.isAbout(from, "v")) {
        return mesh.point(line, from + 1) ? null : "no point";
      }
      if (line.isAbout(from, "f")) {
        return face(line, from + 1) ? null : "no face";
      }
      if (line.isAbout(from, "o")) {
        object = line.text(from + 1, line.length());
        mesh.begin(object);
      } else if (line.isAbout(from, "g")) {
        String group = line.text(from + 1, line.length());
        mesh.begin(object.isEmpty() ? group : object + " · " + group);
      } else if (line.isAbout(from, "usemtl")) {
        mesh.surface(line.text(from + 6, line.length()));
      } else if (line.isAbout(from, "mtllib")) {
        readings.link(new Link(line.name(from + 6, line.length()), "material"));
      }
      return null;
    }

    private boolean face(LineBytes line, int from) {
      int count = 0;
      for (int at = line.word(from); at < line.length(); at = line.word(line.space(at))) {
        long told = whole(line.bytes(), at, line.space(at));
        long corner = told < 0 ? mesh.points() + told + 1 : told;
        if (corner < 1 || corner > Integer.MAX_VALUE) {
          return false;
        }
        corners = count == corners.length ? java.util.Arrays.copyOf(corners, count * 2) : corners;
        corners[count++] = (int) (corner - 1);
        highest = Math.max(highest, corner);
      }
      if (count < 3) {
        return false;
      }
      mesh.face(corners, count);
      return true;
    }

    /** The number of a point before the first slash; 0 if there is none. */
    private static long whole(byte[] text, int from, int to) {
      boolean back = text[from] == '-';
      long value = 0;
      int digits = 0;
      for (int i = back ? from + 1 : from; i < to && text[i] != '/'; i++) {
        if (text[i] < '0' || text[i] > '9' || digits > 10) {
          return 0;
        }
        value = value * 10 + text[i] - '0';
        digits++;
      }
      return back ? -value : value;
    }
  }
}
