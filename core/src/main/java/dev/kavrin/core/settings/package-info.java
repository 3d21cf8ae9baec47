/** Programs' own settings in plain text: read by key, exchanged value by value, all else kept. */
package dev.kavrin.core.settings;
