/** Databases in one file. */
package dev.kavrin.core.content.database;
