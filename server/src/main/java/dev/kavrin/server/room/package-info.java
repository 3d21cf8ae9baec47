/** What takes the room of each disk, and how fast it fills. */
package dev.kavrin.server.room;
