/** A simulated store elsewhere: an S3-compatible service over a folder, in a process of its own. */
package dev.kavrin.annex;
