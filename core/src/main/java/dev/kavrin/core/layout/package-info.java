/** A standard set of folders for a project, and what lies in the wrong one. */
package dev.kavrin.core.layout;
