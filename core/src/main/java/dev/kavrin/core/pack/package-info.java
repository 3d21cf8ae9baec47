/** Packs of chunks and the recipes by which files are put together from them. */
package dev.kavrin.core.pack;
