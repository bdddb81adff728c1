import type { Schemas } from "../../api/client";
import { fileText } from "../../logic/fileText";

const MOST_BYTES = 1_000_000;

/** A chosen file as the server reads it; of one that is too large, what to do instead. */
export async function cardFile(file: File, instead: string): Promise<Schemas["DoughFileBody"]> {
  if (file.size > MOST_BYTES) {
    throw new Error(
      `“${file.name}” is ${(file.size / 1e6).toFixed(1)} MB. At most 1 MB is read: ${instead}.`,
    );
  }
  return { name: file.name.slice(0, 200), text: await fileText(file) };
}
