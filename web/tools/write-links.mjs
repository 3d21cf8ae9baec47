// Writes an HDF5 file with the HDF Group's own library (as WebAssembly): a field of its own, a link
// within the file, and links into the other files that are named.
import h5wasm from "h5wasm/node";

const [path, ...others] = process.argv.slice(2);
await h5wasm.ready;
const file = new h5wasm.File(path, "w");
file.create_dataset({ name: "own", data: new Float64Array([1, 2, 3]) });
file.create_soft_link("/own", "alias");
file.create_group("steps");
others.forEach((other, i) => file.create_external_link(other, "/heat/field", `steps/${i}`));
file.close();
