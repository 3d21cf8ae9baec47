package dev.kavrin.core.journal;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.units.DayHours;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.UUID;

/**
 * Where copies of a project go that shall survive this site, and how.
 *
 * @param name what people call it
 * @param address a bucket with its beginning of names, {@code s3://bucket/begin}, or a folder of
 *     another machine that is mounted here, {@code file:///mnt/…}
 * @param begin what all names of the project begin with there, a slash at the end
 * @param service address of the service a bucket belongs to; null for a folder
 * @param region of the bucket, null where the service knows none
 * @param key name of the key file in the data folder; null for a folder
 * @param authority name of a certificate file beside it that vouches for the service; null for
 *     those the runtime trusts
 * @param seal name of the file beside it with the passphrase its objects are encrypted with; null
 *     for a store that is not
 * @param keep keep rules of its own, null for the plan's
 * @param from hour at which sending may begin, null for any time
 * @param to hour at which it must stop
 * @param bytesPerSecond sent or read; zero for full speed
 * @param paused by a person: nothing is sent
 * @param readEvery each copy there is read back again after so long
 */
public record StoreAddress(
    UUID id,
    String name,
    String address,
    String begin,
    @Nullable String service,
    @Nullable String region,
    @Nullable String key,
    @Nullable String authority,
    @Nullable String seal,
    @Nullable Counts keep,
    @Nullable LocalTime from,
    @Nullable LocalTime to,
    long bytesPerSecond,
    boolean paused,
    Duration readEvery) {
  private static final Duration MONTH = Duration.ofDays(30);
  private static final long SLOWEST = 10_000;

  public StoreAddress {
    readEvery = readEvery == null ? MONTH : readEvery;
    if (!address.startsWith("s3://") && !address.startsWith("file:///")) {
      throw new IllegalArgumentException(
          "'" + address + "' is neither a bucket, s3://…, nor a mounted folder, file:///…");
    }
    DayHours.require(from, to);
    if (bytesPerSecond != 0 && bytesPerSecond < SLOWEST) {
      throw new IllegalArgumentException(
          "A rate of " + bytesPerSecond + " B/s would never be done; the least is " + SLOWEST);
    }
    if (readEvery.compareTo(Duration.ofDays(1)) < 0) {
      throw new IllegalArgumentException("Copies elsewhere are read back once a day at most");
    }
  }

  /** What all names of a project begin with, unless set before: readable, and its own. */
  public static String begin(String slug, UUID project) {
    return slug + "-" + project.toString().substring(0, 8) + "/";
  }

  @JsonIgnore
  public boolean isFolder() {
    return address.startsWith("file:");
  }

  /** Why nothing is sent at that moment, in words; null if it is. */
  @Nullable
  public String rests(Instant now, ZoneId zone) {
    if (paused) {
      return "paused by hand";
    }
    boolean may = DayHours.contain(from, to, now.atZone(zone).toLocalTime());
    return may ? null : "outside its hours, " + from + " to " + to;
  }
}
