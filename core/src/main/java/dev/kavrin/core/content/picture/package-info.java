/** Pictures. */
package dev.kavrin.core.content.picture;
