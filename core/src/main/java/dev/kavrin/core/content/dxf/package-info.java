/** DXF in its text form: pairs of a group code and a value. */
package dev.kavrin.core.content.dxf;
