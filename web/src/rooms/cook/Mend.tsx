// Asks for the one missing fact of a line, in its place.

import type { Problem } from "../../api/client";
import { useNames } from "../../api/kitchen";
import { PriceOne } from "../../parts/PriceOne";
import { WeighOne } from "../../parts/WeighOne";

export function Mend({ problem }: { problem: Problem }) {
  const names = useNames();
  if (problem.code === "missing_weight" && problem.item && problem.unit) {
    return <WeighOne item={problem.item} unit={problem.unit} message={problem.message} />;
  }
  if (problem.code === "missing_price" && problem.item) {
    const name = names.data?.find((one) => one.id === problem.item)?.name ?? problem.item;
    return <PriceOne item={problem.item} name={name} message={problem.message} />;
  }
  return <span className="text-error text-sm">{problem.message}</span>;
}
