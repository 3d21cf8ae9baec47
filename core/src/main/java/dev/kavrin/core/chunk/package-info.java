/** The identity of contents. */
package dev.kavrin.core.chunk;
