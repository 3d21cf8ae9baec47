/** The heart of Kavrin: plain Java without Spring, Hibernate, HTTP or screens. */
package dev.kavrin.core;
