package dev.kavrin.core.content;

import dev.kavrin.core.content.ContentReader.Reading;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** Collects what a reader finds in a file of one format. */
public final class Readings {
  private final String format;
  private final List<Part> parts = new ArrayList<>();
  private final List<Link> links = new ArrayList<>();
  private final List<Finding> findings = new ArrayList<>();
  private Instant saved;
  private Double precision;

  public Readings(String format) {
    this.format = format;
  }

  public Readings part(Part part) {
    parts.add(part);
    return this;
  }

  public int parts() {
    return parts.size();
  }

  public Readings link(Link link) {
    links.add(link);
    return this;
  }

  public Readings found(Finding finding) {
    findings.add(finding);
    return this;
  }

  /** When the file was saved, by what stands inside it. */
  public Readings saved(Instant moment) {
    saved = moment;
    return this;
  }

  /** The smallest length its numbers tell apart. */
  public Readings precision(double length) {
    precision = length;
    return this;
  }

  public boolean isFaultless() {
    return findings.stream().allMatch(f -> f.severity() == Finding.Severity.NOTE);
  }

  /** What was read, and that the file ends before it should. */
  public Reading cutShort(long size, String words) {
    return found(Finding.damaged("cut-short", size, words)).done();
  }

  /** What was read, and that a byte is not what the format asks for. */
  public Reading broken(long at, String words) {
    return found(Finding.damaged("not-" + format, at, words)).done();
  }

  public Reading done() {
    return new Reading(
        Inventory.of(format, parts, links).saved(saved).precise(precision), findings);
  }

  /** The reading of a file without a byte. */
  public Reading empty() {
    return found(Finding.damaged("empty", 0, "The file is empty: 0 bytes.")).done();
  }
}
