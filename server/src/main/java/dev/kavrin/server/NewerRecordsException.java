package dev.kavrin.server;

/** The records were written by a newer Kavrin, which this one would misread. */
final class NewerRecordsException extends RuntimeException {
  NewerRecordsException(String written, String known) {
    super(
        ("These records were written by a newer Kavrin: they have change %s, this one knows changes"
                + " up to %s. Nothing was changed. Install that version, or a newer one, again.")
            .formatted(written, known));
  }
}
