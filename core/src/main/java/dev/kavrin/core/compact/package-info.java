/** Older versions put together from packs, so that a thousand fit where a few did. */
package dev.kavrin.core.compact;
