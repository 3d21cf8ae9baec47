/** Crashes on purpose: on a copy, with a plan as it is, and proof of what comes back. */
package dev.kavrin.core.recoverytest;
