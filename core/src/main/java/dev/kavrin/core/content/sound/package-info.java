/** Sound and other RIFF containers. */
package dev.kavrin.core.content.sound;
