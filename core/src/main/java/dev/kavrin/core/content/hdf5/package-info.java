/** HDF5, the usual form of a solver's restart and result files. */
package dev.kavrin.core.content.hdf5;
