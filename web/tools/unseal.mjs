// Opens one encrypted object of a store as docs/formats.md describes it:
//   node unseal.mjs STORE-FOLDER NAME PASSPHRASE-FILE > FILE
import { createDecipheriv, createHmac, pbkdf2Sync } from "node:crypto";
import { readFileSync } from "node:fs";
import { join } from "node:path";

const [store, name, words] = process.argv.slice(2);
const passphrase = /^passphrase=(.*)$/m.exec(readFileSync(words, "utf8"))[1].trim();
const { salt, rounds } = JSON.parse(readFileSync(join(store, "store.json"), "utf8")).seal;
const root = pbkdf2Sync(passphrase, Buffer.from(salt, "base64"), rounds, 32, "sha256");
const mac = (...texts) =>
  createHmac("sha256", root)
    .update(texts.map((t) => `${t}\0`).join(""))
    .digest();

const sealed = readFileSync(join(store, name));
if (sealed.toString("latin1", 0, 8) !== "KAVSEAL1") throw new Error(`${name} is not encrypted`);
const key = mac("object", name, sealed.toString("hex", 8, 24));
const piece = 65536 + 16;
for (let at = 24, number = 0; at < sealed.length; at += piece, number++) {
  const block = sealed.subarray(at, at + piece);
  const nonce = Buffer.alloc(12);
  nonce.writeUInt32BE(at + piece >= sealed.length ? 1 : 0);
  nonce.writeBigUInt64BE(BigInt(number), 4);
  const cipher = createDecipheriv("aes-256-gcm", key, nonce);
  cipher.setAuthTag(block.subarray(-16));
  process.stdout.write(Buffer.concat([cipher.update(block.subarray(0, -16)), cipher.final()]));
}
