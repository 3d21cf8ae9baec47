package dev.kavrin.server.bundle;

import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import dev.kavrin.server.bundle.Bundles.Said;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.springframework.web.util.HtmlUtils;

/** The page the receiver opens first: stands alone, can be printed, asks nothing of a network. */
final class HandOver {
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm");
  private static final String STYLE =
      "body{font:14px/1.5 sans-serif;color:#1d2a31;background:#fff;max-width:52em;margin:2em auto;"
          + "padding:0 1em}h1{font-size:22px;margin:0}h2{font-size:16px;border-top:1px solid #d8d2c4;"
          + "padding-top:.8em}table{border-collapse:collapse;width:100%}td,th{text-align:left;"
          + "padding:4px 8px 4px 0;border-bottom:1px solid #d8d2c4;vertical-align:top}th{font-weight:400;"
          + "color:#5c646a}code{font:12px monospace;word-break:break-all}.mark{border:1px solid;"
          + "padding:1px 8px;margin-left:.6em;font-size:14px}.muted{color:#5c646a}.told{color:#7d5a00}"
          + "img{max-width:160px;max-height:100px}pre{white-space:pre-wrap;font:inherit;margin:0}"
          + "@media print{body{margin:0;max-width:none}a{color:inherit}tr{break-inside:avoid}}";

  private final Packing.Packed packed;
  private final Said said;
  private final Instant at;
  private final ZoneId zone;
  private final StringBuilder page = new StringBuilder();

  HandOver(Packing.Packed packed, Said said, Instant at, ZoneId zone) {
    this.packed = packed;
    this.said = said;
    this.at = at;
    this.zone = zone;
  }

  /**
   * @param picture PNG of a packed file, no bytes if there is nothing to see
   * @param leftOut what was asked about and stays with the sender
   */
  String page(Function<PackedFile, byte[]> picture, List<String> leftOut) {
    page.append("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>")
        .append(safe(said.name()))
        .append("</title><style>")
        .append(STYLE)
        .append("</style></head><body>\n<h1>")
        .append(safe(said.name()));
    if (!said.mark().isBlank()) {
      page.append("<span class=\"mark\">").append(safe(said.mark())).append("</span>");
    }
    page.append("</h1>\n<p class=\"muted\">Packed by ")
        .append(safe(said.who()))
        .append(", ")
        .append(time(at))
        .append(" (")
        .append(safe(zone.getId()))
        .append("). ")
        .append(safe(Words.count(packed.files().size(), "file")))
        .append(", ")
        .append(safe(Sizes.words(packed.bytes())))
        .append(".</p>\n");
    told("Notes", said.note());
    told("Open questions", said.questions());
    documents(picture);
    others();
    missing(leftOut);
    page.append(
        "<h2>Is it whole?</h2><p>This folder is a bag by RFC 8493: <code>manifest-sha256.txt</code>"
            + " has the digest of each file under <code>data</code>. In that folder,"
            + " <code>sha256sum -c manifest-sha256.txt</code> tells.</p>\n</body></html>\n");
    return page.toString();
  }

  private void told(String title, String words) {
    if (!words.isBlank()) {
      page.append("<h2>").append(title).append("</h2><pre>");
      page.append(safe(words.strip())).append("</pre>\n");
    }
  }

  private void documents(Function<PackedFile, byte[]> picture) {
    page.append(
        "<h2>Open these</h2><table><tr><th></th><th>File</th><th>Work of</th><th>Size</th>");
    page.append("</tr>\n");
    for (PackedFile file : packed.files()) {
      if (file.kind().equals("linked")) {
        continue;
      }
      byte[] png = picture.apply(file);
      page.append("<tr><td>");
      if (png.length > 0) {
        page.append("<img alt=\"\" src=\"data:image/png;base64,")
            .append(Base64.getEncoder().encodeToString(png))
            .append("\">");
      }
      page.append("</td><td>");
      link(file);
      for (Map.Entry<String, String> name : file.names().entrySet()) {
        page.append("<br><span class=\"muted\">names <code>")
            .append(safe(name.getValue()))
            .append("</code> instead of <code>")
            .append(safe(name.getKey()))
            .append("</code></span>");
      }
      for (String name : file.cannot()) {
        page.append("<br><span class=\"told\">still names <code>")
            .append(safe(name))
            .append("</code>; point it to its file by hand</span>");
      }
      page.append("</td><td>")
          .append(file.work() == null ? "" : time(file.work()))
          .append("</td><td>")
          .append(safe(Sizes.words(file.size())))
          .append("</td></tr>\n");
    }
    page.append("</table>\n");
  }

  private void others() {
    List<PackedFile> linked =
        packed.files().stream().filter(f -> f.kind().equals("linked")).toList();
    if (!linked.isEmpty()) {
      page.append("<h2>What they use</h2><table>\n");
      for (PackedFile file : linked) {
        page.append("<tr><td>");
        link(file);
        page.append("</td><td>")
            .append(file.asNow() ? "as it was when this was packed" : "as it was then")
            .append("</td><td>")
            .append(safe(Sizes.words(file.size())))
            .append("</td></tr>\n");
      }
      page.append("</table>\n");
    }
  }

  private void missing(List<String> leftOut) {
    if (packed.missing().isEmpty() && leftOut.isEmpty()) {
      return;
    }
    page.append("<h2>Not in here</h2><ul>\n");
    packed
        .missing()
        .forEach(
            (document, links) ->
                links.forEach(
                    link ->
                        page.append("<li class=\"told\"><code>")
                            .append(safe(link))
                            .append("</code>, which ")
                            .append(safe(document))
                            .append(" uses and nobody has</li>\n")));
    leftOut.forEach(
        file ->
            page.append("<li><code>")
                .append(safe(Packing.shown(file)))
                .append("</code>, left out by the sender</li>\n"));
    page.append("</ul>\n");
  }

  private void link(PackedFile file) {
    String path = "data/" + file.path();
    page.append("<a href=\"")
        .append(safe(dev.kavrin.core.content.UriPath.of(path)))
        .append("\"><code>")
        .append(safe(path))
        .append("</code></a>");
  }

  private String time(Instant moment) {
    return TIME.format(moment.atZone(zone));
  }

  private static String safe(String words) {
    return HtmlUtils.htmlEscape(words, "UTF-8");
  }
}
