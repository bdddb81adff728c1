/** Byte order marks, and what they say. */
const MARKS = [
  { bytes: [0xff, 0xfe], encoding: "utf-16le" },
  { bytes: [0xfe, 0xff], encoding: "utf-16be" },
] as const;
/** Where more of the bytes than that are nothing at every second place, it is UTF-16 unmarked. */
const FEW = 0.3;
const LOOKED_AT = 2000;

function halfEmpty(bytes: Uint8Array, start: number): boolean {
  let nothing = 0;
  let all = 0;
  for (let n = start; n < Math.min(bytes.length, LOOKED_AT); n += 2) {
    all += 1;
    if (bytes[n] === 0) nothing += 1;
  }
  return all > 0 && nothing > FEW * all;
}

function encodingOf(bytes: Uint8Array): string {
  const marked = MARKS.find((one) => one.bytes.every((byte, n) => bytes[n] === byte));
  if (marked) return marked.encoding;
  if (halfEmpty(bytes, 1)) return "utf-16le";
  if (halfEmpty(bytes, 0)) return "utf-16be";
  return "utf-8";
}

/** Bytes as text: UTF-8, or as other programs write (UTF-16, Windows-1252); the same as the server
 * does for the command line. */
export function textOfBytes(bytes: Uint8Array): string {
  const encoding = encodingOf(bytes);
  try {
    return new TextDecoder(encoding, { fatal: encoding === "utf-8" }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

/** A chosen file's text. */
export async function fileText(file: File): Promise<string> {
  return textOfBytes(new Uint8Array(await file.arrayBuffer()));
}
