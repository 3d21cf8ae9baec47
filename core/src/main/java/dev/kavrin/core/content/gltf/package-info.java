/**
 * glTF 2.0 in its binary form (ISO/IEC 12113): read within bounds, written, reduced for looking at.
 */
package dev.kavrin.core.content.gltf;
