/** Work that leaves the machine whole: bags by RFC 8493, written and read. */
package dev.kavrin.core.bundle;
