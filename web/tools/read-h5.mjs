// Reads an HDF5 file with the HDF Group's own library (as WebAssembly) and prints what it holds:
// the step, and for each number field its count, least, greatest and mean value.
import h5wasm from "h5wasm/node";

const path = process.argv[2];
await h5wasm.ready;
const file = new h5wasm.File(path, "r");
const fields = {};
const visit = (group, prefix) => {
  for (const name of group.keys()) {
    const item = group.get(name);
    const id = prefix + name;
    if (item instanceof h5wasm.Group) {
      visit(item, id + "/");
    } else {
      const values = Array.from(item.value, Number);
      fields[id] = {
        count: values.length,
        min: values.reduce((a, b) => Math.min(a, b)),
        max: values.reduce((a, b) => Math.max(a, b)),
        mean: values.reduce((a, b) => a + b, 0) / values.length,
      };
    }
  }
};
visit(file, "");
console.log(JSON.stringify({ step: Number(file.attrs.step?.value), fields }));
file.close();
