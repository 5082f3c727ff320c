// What a cost rests on: own tests, the book, estimates; and prices that have grown old.

import type { Sureness } from "../api/client";
import { percent } from "./format";

export function Sure({ sure }: { sure: Sureness }) {
  const parts: [number, string, string][] = [
    [sure.own_tests, "own tests", "own"],
    [sure.book, "from the book", "book"],
    [sure.estimate, "estimates", "est."],
  ];
  const known = parts.filter(([count]) => count > 0);
  const old = Number(sure.old_price_share) >= 0.01;
  return (
    <span className="text-sm whitespace-nowrap">
      {known.length === 0 && <span className="quiet">no yields</span>}
      {known.map(([count, words, short], place) => (
        <span key={short} title={`${count} yields: ${words}`} className={short === "est." ? "unsure" : ""}>
          {place > 0 && " · "}
          {count} {short}
        </span>
      ))}
      {old && (
        <span className="quiet" title={`${percent(sure.old_price_share)} of the money is at old prices`}>
          {" "}
          · {percent(sure.old_price_share)} old
        </span>
      )}
    </span>
  );
}
