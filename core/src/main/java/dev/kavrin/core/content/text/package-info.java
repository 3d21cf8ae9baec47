/** Plain text in sections. */
package dev.kavrin.core.content.text;
