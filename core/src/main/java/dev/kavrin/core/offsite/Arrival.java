package dev.kavrin.core.offsite;

/** What a store says of an object that was sent to it. */
public enum Arrival {
  /** Something stands under the name, perhaps the same bytes; nothing was sent. */
  NAME_TAKEN,
  /** It was taken; which bytes stand there is known once they are read back. */
  UNPROVEN,
  /** It was taken, and the checksum that the store made of it is that of the bytes sent. */
  PROVEN
}
