/**
 * The lasting record of backup folders: one kind of operation, settled after a stop; what the lines
 * come to. Needs no database.
 */
package dev.kavrin.core.journal;
