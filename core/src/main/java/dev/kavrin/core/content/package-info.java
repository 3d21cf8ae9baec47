/** What is inside a file: one reader per format, one inventory model for all. */
package dev.kavrin.core.content;
