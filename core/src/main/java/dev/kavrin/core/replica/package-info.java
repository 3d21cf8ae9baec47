/** Brings backup folders up to date item by item; what cannot be read there is skipped and told. */
package dev.kavrin.core.replica;
