package dev.kavrin.core.content;

/**
 * Numbers on a plane grid, a slice of a field.
 *
 * @param name of the field
 * @param values row by row
 */
public record Slice(String name, String unit, int rows, int columns, double[] values) {}
