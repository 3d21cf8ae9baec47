/** All states of a document in the order of the work, whoever wrote them. */
package dev.kavrin.core.version;
