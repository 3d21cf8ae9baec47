package dev.kavrin.server.version;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

/** What the trail is recorded in. */
final class VersionRows {
  private VersionRows() {}

  interface Contents extends JpaRepository<ContentRow, Long> {
    Optional<ContentRow> findByLengthAndDigestAndExt(long length, String digest, String ext);

    /** Adds the row unless another writer did; waits for one that is about to. */
    @Modifying
    @Query(
        nativeQuery = true,
        value =
            "insert into content (length, xxh3_128, ext) values (:length, :digest, :ext)"
                + " on conflict do nothing")
    void add(long length, String digest, String ext);

    List<ContentRow> findByLengthAndDigest(long length, String digest);

    @Query(
        "select new dev.kavrin.server.version.VersionRows$Known(c.id, c.length, c.digest)"
            + " from ContentRow c where c.id > :after and c.inventory is not null and exists"
            + " (select 1 from CopyRow k where k.contentId = c.id and k.gone is null)"
            + " order by c.id")
    List<Known> read(long after, Limit limit);

    @Query(
        "select c from ContentRow c where c.inventory is null"
            + " and (c.retryAt is null or c.retryAt < :now) and exists (select 1 from CopyRow k"
            + " where k.contentId = c.id and k.gone is null) order by c.id desc")
    List<ContentRow> unread(Instant now, Limit limit);

    @Query(
        "select c from ContentRow c where c.inventory is not null and c.checks < :edition"
            + " and (c.retryAt is null or c.retryAt < :now) and exists (select 1 from CopyRow k"
            + " where k.contentId = c.id and k.gone is null) order by c.id desc")
    List<ContentRow> judgedBefore(int edition, Instant now, Limit limit);
  }

  interface States extends JpaRepository<VersionRow, Long> {
    Optional<VersionRow> findByDocumentIdAndManifestDigest(Long documentId, String digest);

    /** Adds the row unless another writer did; the answer is 1 if it was added here. */
    @Modifying
    @Query(
        nativeQuery = true,
        value =
            "insert into state (document_id, manifest_digest, work_lo, work_hi)"
                + " values (:document, :digest, :lo, :hi) on conflict do nothing")
    int add(long document, String digest, long lo, long hi);

    List<VersionRow> findByDocumentIdIn(Collection<Long> documentIds);
  }

  interface StateEntries extends JpaRepository<VersionEntryRow, Long> {
    List<VersionEntryRow> findByStateIdIn(Collection<Long> stateIds);
  }

  interface Copies extends JpaRepository<CopyRow, Long> {
    Optional<CopyRow> findByUuid(UUID uuid);

    Optional<CopyRow> findByPlaceIdAndRelPathAndGoneIsNull(Long placeId, String relPath);

    Optional<CopyRow> findFirstByPlaceIdAndRelPathOrderByIdDesc(Long placeId, String relPath);

    List<CopyRow> findByDocumentIdInAndGoneIsNull(Collection<Long> documentIds);

    List<CopyRow> findByDocumentIdAndSourceKindIn(Long documentId, Collection<String> kinds);

    List<CopyRow> findByContentIdInAndGoneIsNull(Collection<Long> contentIds);

    List<CopyRow> findByDocumentIdAndBinPathIsNotNull(Long documentId);

    /** Bytes by which Kavrin's copies in a folder grew since then, those in the bin included. */
    @Query(
        "select coalesce(sum(case when k.since >= :since then c.length else 0 end), 0)"
            + " - coalesce(sum(case when k.gone >= :since and k.binPath is null"
            + " then c.length else 0 end), 0)"
            + " from CopyRow k, ContentRow c where c.id = k.contentId and k.placeId = :place")
    long bytesSince(long place, java.time.Instant since);
  }

  /** A content without what was read of it. */
  record Known(long id, long length, String digest) {}

  /** A write of a live file. */
  record Write(long modified, long size) {}

  interface Activities extends JpaRepository<ActivityRow, Long> {
    boolean existsByDocumentIdAndModifiedAndSize(Long documentId, long modified, long size);

    /** Those since a time, oldest first. */
    @Query(
        "select new dev.kavrin.server.version.VersionRows$Write(a.modified, a.size) from ActivityRow a"
            + " where a.documentId = :document and a.modified >= :from order by a.modified")
    List<Write> writes(long document, long from);

    List<ActivityRow> findByDocumentIdInOrderByModified(Collection<Long> documentIds);
  }

  interface Marks extends JpaRepository<MarkRow, Long> {
    Optional<MarkRow> findByDocumentIdAndManifestDigestAndMark(
        Long documentId, String digest, String mark);

    List<MarkRow> findByDocumentId(Long documentId);
  }

  interface Watchings extends JpaRepository<WatchingRow, Long> {
    Optional<WatchingRow> findByPlaceIdAndSince(Long placeId, java.time.Instant since);

    List<WatchingRow> findByPlaceIdOrderBySince(Long placeId);
  }
}
