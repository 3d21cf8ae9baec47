/**
 * Recovery folders: copies made, kept, dropped and found again after a stop. Needs no database; the
 * journal is the truth.
 */
package dev.kavrin.core.store;
