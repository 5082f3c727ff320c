// How far the shares on the board may be off: asked for the pots in sight, a few at a time, and kept while the board stands.

import { useEffect, useRef, useState } from "react";
import { api, type Board, type BoardRow, type SureServing, told } from "../../api/client";
import { rowKey } from "./order";

const AT_A_TIME = 12;
const RESTS_MS = 150;

export type Bands = ReadonlyMap<string, SureServing>;

export function useBands(board: Board, shown: readonly BoardRow[]): Bands {
  const [known, setKnown] = useState<{ board: Board; bands: Bands }>({ board, bands: new Map() });
  const asked = useRef<{ board: Board; recipes: Set<string> }>({ board, recipes: new Set() });
  // Another board: what was asked for the one before counts no more.
  if (asked.current.board !== board) asked.current = { board, recipes: new Set() };
  useEffect(() => {
    let left = false;
    const timer = setTimeout(async () => {
      const { recipes } = asked.current;
      const missing = [...new Set(shown.map((row) => row.recipe))].filter((one) => !recipes.has(one));
      for (let from = 0; from < missing.length && !left; from += AT_A_TIME) {
        const some = missing.slice(from, from + AT_A_TIME);
        for (const one of some) recipes.add(one);
        try {
          const found = await told<SureServing[]>(
            api.POST("/api/board/uncertainty", { body: { recipes: some } }),
          );
          setKnown((before) => {
            const bands = new Map(before.board === board ? before.bands : []);
            for (const one of found) bands.set(rowKey(one), one);
            return { board, bands };
          });
        } catch {
          // The board stands without its bands; they are asked for again with the next one that is shown.
          for (const one of some) recipes.delete(one);
          return;
        }
      }
    }, RESTS_MS);
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [board, shown]);
  return known.board === board ? known.bands : NONE;
}

const NONE: Bands = new Map();
