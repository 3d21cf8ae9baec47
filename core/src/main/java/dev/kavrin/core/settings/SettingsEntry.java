package dev.kavrin.core.settings;

/**
 * One value in a settings text.
 *
 * @param key its path: sections, parents and name joined by {@code /}
 * @param value without quotes and escapes
 * @param from where its raw text begins, in chars
 * @param to behind its raw text
 */
public record SettingsEntry(String key, String value, int from, int to) {}
