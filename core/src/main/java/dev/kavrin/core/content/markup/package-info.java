/** Markup: XML and what is written in it. */
package dev.kavrin.core.content.markup;
