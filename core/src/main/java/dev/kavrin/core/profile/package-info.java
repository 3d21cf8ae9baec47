/** Getting to know a program by watching what it does to files. */
package dev.kavrin.core.profile;
