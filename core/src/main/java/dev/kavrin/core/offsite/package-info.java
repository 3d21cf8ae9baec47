/** Copies that survive this site: sent, read back, kept by rules, and brought back from there. */
package dev.kavrin.core.offsite;
