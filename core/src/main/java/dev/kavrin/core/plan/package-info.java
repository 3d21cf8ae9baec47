/** Cadence, exposure and what a plan costs. */
package dev.kavrin.core.plan;
