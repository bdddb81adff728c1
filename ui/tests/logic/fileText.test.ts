import { expect, test } from "vitest";

import { fileText, textOfBytes } from "../../src/logic/fileText";

const TEXT = "dough;name\nGrößte Äpfel;180 °C";

function utf16(text: string, little: boolean, mark: boolean): Uint8Array {
  const units = [...(mark ? [0xfeff] : []), ...Array.from(text, (letter) => letter.charCodeAt(0))];
  return Uint8Array.from(units.flatMap((u) => (little ? [u & 255, u >> 8] : [u >> 8, u & 255])));
}

test.each([
  ["UTF-8", new TextEncoder().encode(TEXT)],
  ["UTF-8 with a mark", new TextEncoder().encode(`\ufeff${TEXT}`)],
  ["UTF-16, little", utf16(TEXT, true, true)],
  ["UTF-16, big", utf16(TEXT, false, true)],
  ["UTF-16, little, unmarked", utf16(TEXT, true, false)],
  ["UTF-16, big, unmarked", utf16(TEXT, false, false)],
  ["Windows-1252", Uint8Array.from(TEXT, (letter) => letter.charCodeAt(0))],
])("a file in %s is read", (_encoding, bytes) => {
  expect(textOfBytes(bytes)).toBe(TEXT);
});

test("nothing is nothing", async () => {
  expect(textOfBytes(new Uint8Array())).toBe("");
  expect(await fileText(new File([TEXT], "a.csv"))).toBe(TEXT);
});
