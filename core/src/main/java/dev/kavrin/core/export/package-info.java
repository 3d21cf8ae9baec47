/** The same work in another open format, and what is lost on the way. */
package dev.kavrin.core.export;
