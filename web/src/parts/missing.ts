// What is named somewhere and is no item yet: what it may be, and making the items of all of it together.

import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { refresh } from "../api/asked";
import { api, type Missing, told } from "../api/client";
import type { MissingThing, Taken } from "./MissingTable";

/** What some texts may become; asked anew when an item came to the kitchen. */
export const missingOf = (texts: readonly string[]) =>
  queryOptions({
    queryKey: ["missing", texts],
    queryFn: () => told<Missing[]>(api.POST("/api/shelf/missing", { body: { texts: [...texts] } })),
    enabled: texts.length > 0,
  });

export function thingsOf(
  keys: readonly string[],
  texts: readonly string[],
  found: readonly Missing[],
): MissingThing[] {
  return found.flatMap((one, at) => {
    const [key, text] = [keys[at], texts[at]];
    return key === undefined || text === undefined
      ? []
      : [{ key, text, name: one.name, only: one.only ?? null, candidates: one.candidates }];
  });
}

/** Makes the items that are new, all or none, and gives the item of each thing by its key. */
export async function itemsOf(client: QueryClient, taken: readonly Taken[]): Promise<Map<string, string>> {
  const made = taken.filter((one) => one.as === "shelf" || one.as === "new");
  const items = new Map(taken.filter((one) => one.as === "item").map((one) => [one.key, one.id]));
  if (made.length > 0) {
    const things = made.map((one) => ({
      name: one.name,
      kind: one.kind,
      shelf: one.as === "shelf" ? one.id : null,
    }));
    const ids = await told<string[]>(api.POST("/api/items/together", { body: { things } }));
    made.forEach((one, at) => {
      const id = ids[at];
      if (id) items.set(one.key, id);
    });
    await refresh(client, "item");
  }
  return items;
}
