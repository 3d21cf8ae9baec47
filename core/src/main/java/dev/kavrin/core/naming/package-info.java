/** File names: patterns that parse and make them, and the names of Kavrin's own copies. */
package dev.kavrin.core.naming;
