// Reads OBJ, STL and PLY files with the loaders of three.js and prints what their triangles come to.
import { readFileSync } from "node:fs";
import { OBJLoader } from "three/examples/jsm/loaders/OBJLoader.js";
import { PLYLoader } from "three/examples/jsm/loaders/PLYLoader.js";
import { STLLoader } from "three/examples/jsm/loaders/STLLoader.js";

const path = process.argv[2];
const bytes = readFileSync(path);
const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
const geometries = [];
if (path.endsWith(".obj")) {
  new OBJLoader()
    .parse(bytes.toString())
    .traverse((o) => o.geometry && geometries.push(o.geometry));
} else if (path.endsWith(".stl")) {
  geometries.push(new STLLoader().parse(buffer));
} else {
  geometries.push(new PLYLoader().parse(buffer));
}
const sum = { parts: geometries.length, triangles: 0, area: 0, volume: 0 };
for (const geometry of geometries) {
  const points = geometry.getAttribute("position");
  const corner = (i) => (geometry.index ? geometry.index.getX(i) : i);
  const count = geometry.index ? geometry.index.count : points.count;
  for (let i = 0; i < count; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const at = corner(i + k);
      return [points.getX(at), points.getY(at), points.getZ(at)];
    });
    const u = b.map((x, k) => x - a[k]);
    const v = c.map((x, k) => x - a[k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    sum.triangles += 1;
    sum.area += Math.hypot(...n) / 2;
    sum.volume += (a[0] * n[0] + a[1] * n[1] + a[2] * n[2]) / 6;
  }
}
console.log(JSON.stringify(sum));
