/** Draws what a file shows, the same to the pixel on every machine. */
package dev.kavrin.core.picture;
