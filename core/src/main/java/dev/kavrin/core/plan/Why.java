package dev.kavrin.core.plan;

/**
 * How a figure came about.
 *
 * @param formula in symbols
 * @param filled with the values put in
 * @param source published source, or "common practice, no source"
 */
public record Why(String formula, String filled, String source) {}
