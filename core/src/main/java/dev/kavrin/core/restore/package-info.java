/** Bringing a state back: staged, verified, journalled, undoable. */
package dev.kavrin.core.restore;
