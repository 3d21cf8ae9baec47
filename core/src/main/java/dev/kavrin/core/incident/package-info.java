/** Notices that a program died, retains and secures what it left behind. */
package dev.kavrin.core.incident;
