/** The process that reads foreign files. */
package dev.kavrin.core.worker;
