// What a person typed and has not sent yet, kept in the browser: with the version of its form, and checked when it is read.

import { type GenericSchema, type InferOutput, safeParse } from "valibot";
import { keptNames, lasting, putAside } from "./browserStore";

interface Keeper<T> {
  keep: (id: string, value: T) => void;
  /** What is kept; null where there is nothing, or nothing that can be read. */
  kept: (id: string) => T | null;
  forget: (id: string) => void;
  /** What there is to be found under this name. */
  names: () => string[];
}

/**
 * Keeps values of a form under a name. A value of an earlier version is brought up by `earlier`, which is given what was
 * kept and its version, 0 where it had none. What cannot be read is put aside under another name, not thrown away.
 */
export function keeper<S extends GenericSchema>(
  name: string,
  version: number,
  schema: S,
  earlier: (value: unknown, version: number) => unknown = (value) => value,
): Keeper<InferOutput<S>> {
  const place = (id: string) => `potrel:${name}:${id}`;
  const aside = (id: string, text: string): null => {
    lasting.drop(place(id));
    putAside(`${name}:${id}`, text);
    return null;
  };
  return {
    keep: (id, value) => void lasting.put(place(id), JSON.stringify({ version, value })),
    forget: (id) => lasting.drop(place(id)),
    names: () => keptNames(place("")),
    kept: (id) => {
      const text = lasting.get(place(id));
      if (text === null) return null;
      const { version: of, value } = unwrapped(text);
      if (of > version) return aside(id, text);
      const read = safeParse(schema, of === version ? value : earlier(value, of));
      return read.success ? read.output : aside(id, text);
    },
  };
}

function unwrapped(text: string): { version: number; value: unknown } {
  try {
    const found: unknown = JSON.parse(text);
    if (typeof found !== "object" || found === null) return { version: 0, value: null };
    if ("version" in found && typeof found.version === "number" && "value" in found)
      return { version: found.version, value: found.value };
    return { version: 0, value: found };
  } catch {
    return { version: 0, value: null };
  }
}
