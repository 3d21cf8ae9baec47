/** Sizes, durations and moments with evidence: small values everything else is told in. */
package dev.kavrin.core.units;
