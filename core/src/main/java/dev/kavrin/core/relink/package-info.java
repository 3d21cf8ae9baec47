/** What files lean on, and leading them to it again. */
package dev.kavrin.core.relink;
