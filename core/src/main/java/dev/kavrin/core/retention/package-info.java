/** Applies keep rules: to the bin, much later gone; reads copies again. */
package dev.kavrin.core.retention;
