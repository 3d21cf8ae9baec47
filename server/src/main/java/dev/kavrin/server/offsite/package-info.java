/** Stores elsewhere: connected, watched, and brought back from. */
package dev.kavrin.server.offsite;
