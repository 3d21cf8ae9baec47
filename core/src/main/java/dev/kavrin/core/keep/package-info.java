/** Which states stay, and why; the last intact copy always does. */
package dev.kavrin.core.keep;
