// Reads a DXF file with the npm package dxf-parser and prints how many entities each layer has.
import { readFileSync } from "node:fs";
import DxfParser from "dxf-parser";

const drawing = new DxfParser().parseSync(readFileSync(process.argv[2], "latin1"));
const layers = {};
for (const entity of drawing.entities) {
  layers[entity.layer] = (layers[entity.layer] ?? 0) + 1;
}
console.log(JSON.stringify(layers));
