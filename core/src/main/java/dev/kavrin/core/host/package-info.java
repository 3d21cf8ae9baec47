/** What the machine can tell: programs that run, devices, who has a file open. */
package dev.kavrin.core.host;
