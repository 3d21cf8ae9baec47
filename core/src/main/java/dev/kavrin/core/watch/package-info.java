/** Documents and programs' own copies, seen as they change and copied by the plan. */
package dev.kavrin.core.watch;
