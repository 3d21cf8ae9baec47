/**
 * The one port to files, and the one class that moves, overwrites or deletes them ({@link
 * dev.kavrin.core.disk.Publisher}).
 */
package dev.kavrin.core.disk;
