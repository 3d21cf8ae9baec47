/** Surfaces in plain exchange formats. */
package dev.kavrin.core.content.mesh;
