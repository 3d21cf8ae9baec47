/** Is a copy whole? Verdicts with findings. */
package dev.kavrin.core.health;
