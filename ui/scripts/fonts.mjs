// Copies the fonts that print names in any script to where the server reads them, with an index of
// the letters that each file has.
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";

const packages = Object.keys(JSON.parse(readFileSync("package.json", "utf8")).dependencies);
const families = packages.filter((name) => name.startsWith("@fontsource-variable/noto-"));
// What the plain family has is taken from there; Chinese signs not from the Korean one; pictures last.
const LAST = ["noto-sans-kr", "noto-emoji"];
const rank = (name) => [
  LAST.indexOf(name.split("/")[1]) + 1,
  name.endsWith("noto-sans") ? 0 : 1,
  name,
].join();
const folder = "../src/finebatch/facts/fonts";

rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
const index = [];
for (const name of families.sort((a, b) => (rank(a) < rank(b) ? -1 : 1))) {
  const family = name.split("/")[1];
  const from = `node_modules/${name}`;
  const subsets = Object.entries(JSON.parse(readFileSync(`${from}/unicode.json`, "utf8")));
  for (const [subset, ranges] of subsets) {
    if (family !== "noto-sans" && /^(latin|cyrillic|greek|vietnamese)/.test(subset)) continue;
    const file = `${family}-${subset.replace(/[[\]]/g, "")}-wght-normal.woff2`;
    cpSync(`${from}/files/${file}`, `${folder}/${file}`);
    const letters = ranges.split(",").map((range) => {
      const [first, last] = range.replace("U+", "").split("-");
      return [Number.parseInt(first, 16), Number.parseInt(last ?? first, 16)];
    });
    index.push({ file, family, letters });
  }
  cpSync(`${from}/LICENSE`, `${folder}/${family}.LICENSE`);
}
writeFileSync(`${folder}/index.json`, JSON.stringify(index));
