/** Fields on grids in plain exchange formats. */
package dev.kavrin.core.content.field;
