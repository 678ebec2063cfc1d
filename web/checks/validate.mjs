// Says what the Khronos validator finds in .glb files: node web/checks/validate.mjs FILE …
import { readFileSync } from "node:fs";
import { validateBytes } from "gltf-validator";

const found = [];
for (const file of process.argv.slice(2)) {
  const { issues } = await validateBytes(new Uint8Array(readFileSync(file)));
  found.push({
    file,
    errors: issues.numErrors,
    warnings: issues.numWarnings,
    messages: issues.messages.slice(0, 8),
  });
}
console.log(JSON.stringify(found));
