/** Older versions, compacted: how it stands, what it would come to, at a person's word. */
package dev.kavrin.server.compact;
