package dev.kavrin.core.picture;

import dev.kavrin.core.content.Bytes;
import jakarta.annotation.Nullable;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Iterator;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/** A picture, smaller. */
final class RasterPicture {
  private RasterPicture() {}

  /** As PNG; null if nobody can decode it. */
  @Nullable
  static byte[] draw(SeekableByteChannel in, int width, int height) throws IOException {
    ImageIO.setUseCache(false);
    try (ImageInputStream stream = ImageIO.createImageInputStream(Bytes.from(in, 0))) {
      Iterator<ImageReader> decoders = ImageIO.getImageReaders(stream);
      if (!decoders.hasNext()) {
        return null;
      }
      ImageReader decoder = decoders.next();
      try {
        decoder.setInput(stream);
        double shrink =
            Math.max((double) decoder.getWidth(0) / width, (double) decoder.getHeight(0) / height);
        ImageReadParam how = decoder.getDefaultReadParam();
        int skip = (int) Math.max(1, Math.floor(shrink / 2));
        how.setSourceSubsampling(skip, skip, 0, 0);
        return Canvas.png(fitted(decoder.read(0, how), width, height));
      } finally {
        decoder.dispose();
      }
    } catch (RuntimeException | javax.imageio.IIOException broken) {
      return null;
    }
  }

  private static BufferedImage fitted(BufferedImage picture, int width, int height) {
    double scale =
        Math.min(
            1,
            Math.min((double) width / picture.getWidth(), (double) height / picture.getHeight()));
    int w = (int) Math.max(1, Math.round(picture.getWidth() * scale));
    int h = (int) Math.max(1, Math.round(picture.getHeight() * scale));
    BufferedImage out = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
    Graphics2D g = out.createGraphics();
    g.setRenderingHint(
        RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
    g.drawImage(picture, (width - w) / 2, (height - h) / 2, w, h, null);
    g.dispose();
    return out;
  }
}
