package dev.kavrin.server.folder;

import java.util.List;

/**
 * How fit a folder is for a role.
 *
 * @param exists false if it would have to be made
 * @param writable true if a file could be put there and taken away again
 * @param free bytes of room
 * @param disk "another disk", "the same disk" or "perhaps the same disk", against the work folder
 * @param holdsCopies true if a Kavrin journal lies there already
 * @param faults why it cannot be used; empty if it can
 * @param cautions what to think about first
 * @param differences what is different there from a folder that can do everything, in words
 */
public record FolderCheck(
    String path,
    boolean exists,
    boolean writable,
    long free,
    String disk,
    boolean holdsCopies,
    List<String> faults,
    List<String> cautions,
    List<String> differences) {}
