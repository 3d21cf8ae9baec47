/** ZIP archives. */
package dev.kavrin.core.content.archive;
