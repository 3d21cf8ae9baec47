/** JSON (RFC 8259), the usual form of a solver's set-up. */
package dev.kavrin.core.content.json;
