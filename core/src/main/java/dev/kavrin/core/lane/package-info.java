/** What is done beside what: who waits for whom, and who never does. */
package dev.kavrin.core.lane;
