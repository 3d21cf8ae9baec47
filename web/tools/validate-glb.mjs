// Reads one GLB with the Khronos glTF validator and prints its errors; used by the Java tests.
import { readFileSync } from "node:fs";
import validator from "gltf-validator";

const report = await validator.validateBytes(new Uint8Array(readFileSync(process.argv[2])), {
  externalResourceFunction: () => Promise.reject(new Error("not fetched")),
  ignoredIssues: ["IO_ERROR"],
});
const errors = report.issues.messages.filter((m) => m.severity === 0);
errors.forEach((m) => console.log(`${m.code} ${m.pointer}: ${m.message}`));
console.log(`${errors.length} errors`);
