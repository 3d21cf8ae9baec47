package dev.kavrin.core.content;

/**
 * A number with its unit.
 *
 * @param unit "", "m", "m²", "m³" or "B"
 */
public record Measure(double value, String unit) {}
