// What a usable kilo costs at a yield, and how that came about.

import type { YieldRow } from "../../api/client";
import { Figure, type Question, useCurrency } from "../../parts/Figure";
import { kilo, money, perKilo } from "../../parts/format";

export const usableKilo = (row: YieldRow): Question => ({
  figure: `item/${row.item}/${row.sort === "cooking" ? "cooking/" : ""}${row.of}`,
});

export function UsableKilo({ row, stop = true }: { row: YieldRow; stop?: boolean }) {
  return (
    <Figure
      ask={usableKilo(row)}
      text={money(perKilo(row.per_kg), useCurrency())}
      label={`usable ${kilo()} of ${row.item_name}, ${row.name}`}
      className={`money ${row.rests_on === "estimate" ? "unsure" : ""}`}
      stop={stop}
    />
  );
}
