// What was really paid for an item: its deliveries less the credits for them.

import type { ItemReply } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { aKilo, kilos, money, perKilo } from "../../parts/format";

const count = (number: number, word: string) => `${number} ${number === 1 ? word : `${word}s`}`;

export function PaidFor({ reply }: { reply: ItemReply }) {
  const currency = useCurrency();
  const { paid } = reply;
  if (!paid) return null;
  const deliveries = paid.deliveries === 1 ? "1 delivery" : `${paid.deliveries} deliveries`;
  return (
    <p className="text-sm mt-2" data-testid="paid">
      Paid for {deliveries}
      {paid.credits > 0 && `, less ${count(paid.credits, "credit")}`}:{" "}
      <span className="money">{money(paid.money, currency)}</span>
      {paid.kg !== null && ` for ${kilos(paid.kg)}`}
      {paid.per_kg !== null && (
        <>
          , <span className="money">{money(perKilo(paid.per_kg), currency)}</span> {aKilo()} on average
        </>
      )}
    </p>
  );
}
