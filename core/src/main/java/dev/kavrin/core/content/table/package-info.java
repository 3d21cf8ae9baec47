/** Tables of numbers as text. */
package dev.kavrin.core.content.table;
