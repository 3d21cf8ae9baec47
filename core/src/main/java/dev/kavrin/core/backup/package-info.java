/** Stable reads of files that others write, published into every backup folder. */
package dev.kavrin.core.backup;
