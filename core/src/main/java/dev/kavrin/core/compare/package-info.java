/** What differs between two states: parts matched, measured, told. */
package dev.kavrin.core.compare;
